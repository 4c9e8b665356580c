import { describe, expect, it } from "vitest";
import type { Workload } from "../src/api/types";
import { ALL_COLUMNS } from "../src/stations/workloads/columns";
import { blockText, filledDown } from "../src/stations/workloads/gridSteps";
import { asKept, moved } from "../src/stations/workloads/useGridColumns";

const fields = (all: ReturnType<typeof asKept>) => all.map(([column]) => column.field);
const workload = (id: string, size: string) =>
  ({ id, name: id, site: "here", size, tags: [] }) as unknown as Workload;
const LIST = [workload("a", "1 TB"), workload("b", "2 TB"), workload("c", "3 TB")];
const SHOWN = ALL_COLUMNS.filter((column) => ["name", "size", "count", "routes"].includes(column.field));
const BLOCK = { top: 0, bottom: 2, left: 1, right: 3 };

describe("the columns of a person", () => {
  it("are those of all at first, some out of sight", () => {
    const all = asKept([]);
    expect(fields(all)).toEqual(ALL_COLUMNS.map((column) => column.field));
    expect(all.filter(([, shown]) => !shown).map(([column]) => column.field)).toEqual([
      "evenGrowth",
      "priority",
    ]);
  });

  it("come in the order that was kept, with widths and hiding; what is new comes after", () => {
    const all = asKept([
      { field: "size", width: 120, hidden: false },
      { field: "name", width: null, hidden: true },
      { field: "gone", width: 40, hidden: false },
    ]);
    expect(fields(all).slice(0, 3)).toEqual(["size", "name", "site"]);
    expect(all[0]).toEqual([expect.objectContaining({ field: "size", width: 120 }), true]);
    expect(all[1]).toEqual([expect.objectContaining({ field: "name", width: 166 }), false]);
  });

  it("move among those in sight, over those that are not, and stay at the edge", () => {
    const all = asKept([{ field: "site", width: null, hidden: true }]);
    expect(fields(moved(all, "size", -1)).indexOf("size")).toBeLessThan(
      fields(moved(all, "size", -1)).indexOf("name"),
    );
    expect(fields(moved(all, "name", 1)).slice(0, 3)).toEqual(["site", "size", "name"]);
    expect(fields(moved(all, "name", -1))).toEqual(fields(all));
  });
});

describe("blocks of the grid", () => {
  it("are copied as they are seen, with the routes", () => {
    expect(blockText(LIST, SHOWN, { ...BLOCK, bottom: 1 }, new Map([["b", "Mail"]]))).toBe(
      "1 TB\t1\t\n2 TB\t1\tMail",
    );
  });

  it("are filled down from their first row, without what is only said; one row from the row above", () => {
    const cells = { size: "1 TB", count: "1" };
    expect(filledDown(LIST, SHOWN, BLOCK)).toEqual([
      { part: "workload cells", key: "b", cells },
      { part: "workload cells", key: "c", cells },
    ]);
    expect(filledDown(LIST, SHOWN, { top: 2, bottom: 2, left: 1, right: 1 })).toEqual([
      { part: "workload cells", key: "c", cells: { size: "2 TB" } },
    ]);
    expect(filledDown(LIST, SHOWN, { top: 0, bottom: 0, left: 1, right: 1 })).toEqual([]);
    expect(filledDown(LIST, SHOWN, { ...BLOCK, left: 3 })).toEqual([]);
  });
});
