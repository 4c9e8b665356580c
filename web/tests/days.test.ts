import { describe, expect, it } from "vitest";
import type { Days } from "../src/api/types";
import { monthsAway } from "../src/design/useAsOf";
import { freshId } from "../src/shared/ids";

/** Months of a year that is not a leap year, as the server sends them, the first from its so-manieth day on. */
function daysFrom(first: number): Days {
  const of = (month: string, length: number) =>
    Array.from({ length }, (_, at) => `2027-${month}-${String(at + 1).padStart(2, "0")}`);
  const dates = [...of("01", 31), ...of("02", 28), ...of("03", 31)].slice(first - 1);
  return { dates, month_begins: [0, 31 - first + 1, 59 - first + 1], marks: [] };
}

const days = daysFrom(1);

describe("months away", () => {
  it("keeps the day of the month, or takes the month's last", () => {
    expect(monthsAway(days, 14, 1)).toBe(45);
    expect(monthsAway(days, 30, 1)).toBe(58);
    expect(monthsAway(days, 60, -1)).toBe(32);
  });

  it("goes to the same day of the month whatever the first day of the design", () => {
    const late = daysFrom(20);
    const at = (iso: string) => late.dates.indexOf(iso);
    expect(monthsAway(late, at("2027-01-20"), 1)).toBe(at("2027-02-20"));
    expect(monthsAway(late, at("2027-03-25"), -2)).toBe(at("2027-01-25"));
    expect(monthsAway(late, at("2027-02-10"), -1)).toBe(0);
    expect(monthsAway(late, at("2027-01-31"), 1)).toBe(at("2027-02-28"));
  });

  it("stays within the design", () => {
    expect(monthsAway(days, 5, -3)).toBe(5);
    expect(monthsAway(days, 80, 12)).toBe(80);
  });
});

describe("fresh ids", () => {
  it("are of their own", () => {
    expect(freshId("ladder", [])).toBe("ladder");
    expect(freshId("ladder", [{ id: "ladder" }, { id: "ladder-2" }])).toBe("ladder-3");
  });
});
