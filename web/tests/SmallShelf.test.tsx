import { ThemeProvider } from "@mui/material/styles";
import { cleanup, render } from "@testing-library/react";
import { afterEach, beforeAll, describe, expect, it } from "vitest";
import type { SpineRow } from "../src/api/types";
import { pathsOf, SmallShelf } from "../src/stations/forecast/SmallShelf";
import { shelfTheme } from "../src/theme/theme";
import { withoutObserver } from "./house";

beforeAll(withoutObserver);
afterEach(cleanup);

function row(ages: number[], change: Partial<SpineRow> = {}): SpineRow {
  return {
    route: "files",
    copy: "house",
    target: "disk",
    age_days: ages,
    height: ages.map(() => 2),
    state: ages.map(() => "kept"),
    ...change,
  };
}

function drawn(rows: SpineRow[]) {
  const { container } = render(
    <ThemeProvider theme={shelfTheme("light")}>
      <SmallShelf rows={rows} height={63} />
    </ThemeProvider>,
  );
  return container;
}

describe("a small shelf", () => {
  it("draws the spines of one look as one path, each of them", () => {
    const mixed = row([1, 7, 30], { height: [2, 2, 4], state: ["kept", "kept", "locked"] });
    const looks = pathsOf(mixed, 400, 60);
    expect(looks.map(({ state, height, count }) => [state, height, count])).toEqual([
      ["kept", 2, 2],
      ["locked", 4, 1],
    ]);
    expect(looks[0]?.d.match(/M/g)).toHaveLength(2);
  });

  it("stands the younger further right and the longer kept taller", () => {
    const [day] = pathsOf(row([1]), 400, 60);
    const [year] = pathsOf(row([400], { height: [6] }), 400, 60);
    const start = (d?: string) => (d ?? "").slice(1).split(/[ h]/).map(Number.parseFloat) as [number, number];
    expect(start(day?.d)[0]).toBeGreaterThan(start(year?.d)[0]);
    expect(start(year?.d)[1]).toBeLessThan(start(day?.d)[1]);
  });

  it("draws no more than its width has places, however many spines stand, and counts them all", () => {
    const many = Array.from({ length: 20_000 }, (_, at) => 0.3 + at / 10);
    const [look] = pathsOf(row(many), 400, 60);
    expect(look?.count).toBe(20_000);
    expect(look?.d.match(/M/g)?.length).toBeLessThanOrEqual(800);
  });

  it("has a board for each copy while boards are high enough to be read, else one for all", () => {
    const copies = (count: number) =>
      Array.from({ length: count }, (_, at) => row([1, 2], { copy: `copy ${at}` }));
    expect(drawn(copies(4)).querySelectorAll("line")).toHaveLength(4);
    cleanup();
    const crowded = drawn(copies(12));
    expect(crowded.querySelectorAll("line")).toHaveLength(1);
    expect(crowded.querySelector("[data-spines]")?.getAttribute("data-spines")).toBe("24");
  });
});
