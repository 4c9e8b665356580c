import { describe, expect, it } from "vitest";
import type { Workload } from "../src/api/types";
import { type Filter, filtered, ordered, toRow } from "../src/stations/workloads/rows";

function workload(id: string, more: Partial<Workload> = {}): Workload {
  return { id, name: id, site: "here", size: "1 TB", tags: [], ...more } as Workload;
}

const ALL: Filter = { text: "", site: "", tag: "", untaken: false };
const TEN = workload("ten", { size: "10 TB", tags: ["mail", "north"] });
const TWO = workload("two", { size: "2 TB", site: "there" });
const LIST = [TEN, TWO];

describe("rows of the grid", () => {
  it("are the same object for the same workload", () => {
    expect(toRow(TEN)).toBe(toRow(TEN));
    expect(toRow({ ...TEN })).not.toBe(toRow(TEN));
  });

  it("stand in the order that the server gives, both ways, new ones last", () => {
    expect(ordered(LIST, ["two", "ten"], false)).toEqual([TWO, TEN]);
    expect(ordered(LIST, ["two", "ten"], true)).toEqual([TEN, TWO]);
    expect(ordered(LIST, ["two"], false)).toEqual([TWO, TEN]);
    expect(ordered(LIST, undefined, false)).toBe(LIST);
  });

  it("are filtered by every word, by site, by tag, and by who has no route", () => {
    expect(filtered(LIST, ALL, new Set())).toBe(LIST);
    expect(filtered(LIST, { ...ALL, text: "mail ten" }, new Set())).toEqual([TEN]);
    expect(filtered(LIST, { ...ALL, text: "mail two" }, new Set())).toEqual([]);
    expect(filtered(LIST, { ...ALL, site: "there" }, new Set())).toEqual([TWO]);
    expect(filtered(LIST, { ...ALL, tag: "north" }, new Set())).toEqual([TEN]);
    expect(filtered(LIST, { ...ALL, untaken: true }, new Set(["two"]))).toEqual([TWO]);
  });
});
