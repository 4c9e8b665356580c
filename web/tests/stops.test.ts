import { describe, expect, it } from "vitest";
import type { Days } from "../src/api/types";
import { nearestStop, stopsFrom, stopsOf } from "../src/design/stops";

/** The days from the first of 2027 on, as the server would list them. */
function daysOf(count: number): Days {
  const dates = Array.from({ length: count }, (_, at) =>
    new Date(Date.UTC(2027, 0, 1 + at)).toISOString().slice(0, 10),
  );
  return { dates, month_begins: dates.flatMap((date, at) => (date.endsWith("-01") ? [at] : [])), marks: [] };
}

describe("stops of the as-of handle", () => {
  it("are the ends of months in a design of ten years, its first and last day among them", () => {
    const days = daysOf(3653);
    const stops = stopsOf(days);
    expect(stops).toHaveLength(121);
    expect(stops.slice(0, 3).map((stop) => days.dates[stop])).toEqual([
      "2027-01-01",
      "2027-01-31",
      "2027-02-28",
    ]);
    expect(days.dates[stops.at(-1) ?? 0]).toBe("2036-12-31");
  });

  it.each([30, 365, 1096, 36_524])(
    "are no more than can be told apart in %i days, in order, each once",
    (count) => {
      const stops = stopsOf(daysOf(count));
      expect(stops.length).toBeLessThanOrEqual(132);
      expect(stops[0]).toBe(0);
      expect(stops.at(-1)).toBe(count - 1);
      expect([...new Set(stops)].sort((one, other) => one - other)).toEqual(stops);
    },
  );

  it("take the nearest, and are walked from the nearest on", () => {
    expect(nearestStop([0, 30, 58], 44)).toBe(30);
    expect(nearestStop([0, 30, 58], 46)).toBe(58);
    expect(stopsFrom([0, 30, 58, 89], 50)).toEqual([58, 30, 89, 0]);
  });
});
