import type { Bar, Ladder } from "../src/api/types";

export const WEEKLY_BAR: Bar = {
  part: "rung",
  place: 0,
  label: "weekly",
  keep: "periods",
  count: 6,
  unit: "week",
  step_days: 7,
  reach_days: 42,
  height: 3,
  candidates: [
    { value: "self-contained", words: "self-contained" },
    { value: "any", words: "of any kind" },
  ],
};

/** The newest 14, a week's first point for six weeks, and a year's last as long as is said. */
export function houseRule(yearly: { name: string; keep: string }): Ladder {
  return {
    id: "house",
    name: "House",
    floor: 1,
    recent: [{ keep: { points: 14 } }],
    rungs: [
      { name: "weekly", every: "week", pick: "first", from: "self-contained", keep: { periods: 6 } },
      { ...yearly, every: "year", pick: "last", from: "any" },
    ],
  };
}

/** The browser that tests run in has no observer of widths; elements keep the width they start with. */
export function withoutObserver(): void {
  globalThis.ResizeObserver = class {
    observe() {}
    unobserve() {}
    disconnect() {}
  };
}
