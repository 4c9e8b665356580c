import { describe, expect, it } from "vitest";
import type { Days, Workload } from "../src/api/types";
import { monthsAway } from "../src/design/useAsOf";
import { freshId } from "../src/shared/ids";
import { fromRow, toRow } from "../src/stations/workloads/rows";

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

describe("rows of workloads", () => {
  const workload: Workload = {
    id: "w",
    name: "W",
    site: "s",
    size: "12 TB",
    count: 2,
    daily_change_percent: 1,
    hot_percent: 50,
    change_pattern: "scattered",
    annual_growth_percent: 3,
    steps: [{ on: "2027-05-01", add: "1 TB" }],
    reduction: 1.5,
    log_per_day: null,
    members: [],
    tags: ["a", "b"],
  };

  it("come back as they went, with what they do not show", () => {
    expect(fromRow(toRow(workload), workload)).toMatchObject({ ...workload });
  });

  it("read what was typed", () => {
    const row = { ...toRow(workload), size: " 5000 ", tags: "x, ,y", until: "2028-01-01" };
    expect(fromRow(row, workload)).toMatchObject({ size: 5000, tags: ["x", "y"], until: "2028-01-01" });
  });
});

describe("fresh ids", () => {
  it("are of their own", () => {
    expect(freshId("ladder", [])).toBe("ladder");
    expect(freshId("ladder", [{ id: "ladder" }, { id: "ladder-2" }])).toBe("ladder-3");
  });
});
