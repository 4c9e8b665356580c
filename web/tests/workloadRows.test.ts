import { describe, expect, it } from "vitest";
import type { Workload } from "../src/api/types";
import { ALL, filtered, ordered, toRow, turned } from "../src/stations/workloads/rows";

function workload(id: string, more: Partial<Workload> = {}): Workload {
  return { id, name: id, site: "here", size: "1 TB", tags: [], ...more } as Workload;
}

const TEN = workload("ten", { size: "10 TB", tags: ["mail", "north"] });
const TWO = workload("two", { size: "2 TB", site: "there" });
const LIST = [TEN, TWO];
const ROUTES = new Map([["ten", "Mail"]]);

describe("rows of the grid", () => {
  it("are the same object for the same workload", () => {
    expect(toRow(TEN)).toBe(toRow(TEN));
    expect(toRow({ ...TEN })).not.toBe(toRow(TEN));
  });

  it("stand in the order that the server gives, new ones last", () => {
    expect(ordered(LIST, ["two", "ten"])).toEqual([TWO, TEN]);
    expect(ordered(LIST, ["ten", "two"])).toEqual([TEN, TWO]);
    expect(ordered(LIST, ["two"])).toEqual([TWO, TEN]);
    expect(ordered(LIST, undefined)).toBe(LIST);
  });

  it("are filtered by every word, by site, by tag, and by who has no route", () => {
    expect(filtered(LIST, ALL, new Set(), ROUTES)).toBe(LIST);
    expect(filtered(LIST, { ...ALL, text: "mail ten" }, new Set(), ROUTES)).toEqual([TEN]);
    expect(filtered(LIST, { ...ALL, text: "mail two" }, new Set(), ROUTES)).toEqual([]);
    expect(filtered(LIST, { ...ALL, site: "there" }, new Set(), ROUTES)).toEqual([TWO]);
    expect(filtered(LIST, { ...ALL, tag: "north" }, new Set(), ROUTES)).toEqual([TEN]);
    expect(filtered(LIST, { ...ALL, untaken: true }, new Set(["two"]), ROUTES)).toEqual([TWO]);
  });

  it("are filtered by what a column says, to the letter, and by who has no route", () => {
    const by = (values: typeof ALL.values) => filtered(LIST, { ...ALL, values }, new Set(), ROUTES);
    expect(by({ size: "2 TB" })).toEqual([TWO]);
    expect(by({ size: "2 TB", site: "here" })).toEqual([]);
    expect(by({ tags: "" })).toEqual([TWO]);
    expect(by({ routes: "Mail" })).toEqual([TEN]);
    expect(by({ routes: "" })).toEqual([TWO]);
  });
});

describe("the orders of columns", () => {
  it("turn up, down and away, alone", () => {
    const up = turned([], "size", false);
    expect(up).toEqual([{ field: "size", down: false }]);
    const down = turned(up, "size", false);
    expect(down).toEqual([{ field: "size", down: true }]);
    expect(turned(down, "size", false)).toEqual([]);
    expect(turned(down, "name", false)).toEqual([{ field: "name", down: false }]);
  });

  it("stand one after another with Shift, and keep their places when one is turned", () => {
    const two = turned(turned([], "site", false), "size", true);
    expect(two.map((one) => one.field)).toEqual(["site", "size"]);
    expect(turned(two, "site", true)).toEqual([
      { field: "site", down: true },
      { field: "size", down: false },
    ]);
    expect(turned(turned(two, "site", true), "site", true)).toEqual([{ field: "size", down: false }]);
  });
});
