import { describe, expect, it } from "vitest";
import type { Workload } from "../src/api/types";
import { type Filter, filtered, ordered, toRow, withCell } from "../src/stations/workloads/rows";

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

  it("are sorted by figures, not by letters, both ways", () => {
    expect(ordered(LIST, { field: "size", down: false })).toEqual([TWO, TEN]);
    expect(ordered(LIST, { field: "size", down: true })).toEqual([TEN, TWO]);
    expect(ordered(LIST, null)).toBe(LIST);
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

describe("a typed cell", () => {
  it("changes its field alone", () => {
    expect(withCell(TEN, "growth", "12,5 %")).toEqual({ ...TEN, annual_growth_percent: 12.5 });
    expect(withCell(TEN, "tags", "a, b c")).toEqual({ ...TEN, tags: ["a", "b", "c"] });
    expect(withCell(TEN, "until", " ")).toEqual({ ...TEN, until: null });
    expect(withCell(TEN, "id", "other")).toBe(TEN);
  });

  it("leaves what is no number for the server to refuse by name", () => {
    expect(withCell(TEN, "count", "many").count).toBe("many");
    expect(withCell(TEN, "size", "5000").size).toBe(5000);
    expect(withCell(TEN, "size", "5 TiB").size).toBe("5 TiB");
  });
});
