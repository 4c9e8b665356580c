import { describe, expect, it } from "vitest";
import type { Days } from "../src/api/types";
import { monthsAway } from "../src/design/useAsOf";
import { freshId } from "../src/shared/ids";

// January to March of a year that is not a leap year, as the server sends it: places, not dates, are counted here.
const days: Days = {
  dates: Array.from({ length: 90 }, (_, place) => `day ${place}`),
  month_begins: [0, 31, 59],
};

describe("months away", () => {
  it("keeps the day of the month, or takes the month's last", () => {
    expect(monthsAway(days, 14, 1)).toBe(45);
    expect(monthsAway(days, 30, 1)).toBe(58);
    expect(monthsAway(days, 60, -1)).toBe(32);
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
