import { describe, expect, it } from "vitest";
import type { DesignOut, EditOut } from "../src/api/types";
import { changesBack, withMade, withWanted } from "../src/design/changes";

type Made = EditOut["made"][number];

function design(): DesignOut {
  const sites = ["north", "south", "east"].map((id) => ({ id, name: "" }));
  const versions = { sites: { north: 1, south: 4, east: 1 }, settings: { design: 2 } };
  return { revision: 7, document: { name: "Old", sites }, versions } as unknown as DesignOut;
}

function made(one: Partial<Made>): Made {
  return { part: "sites", key: "south", version: 5, place_before: 1, before: null, after: null, ...one };
}

const SOUTH = { id: "south", name: "South" };

describe("what was made is put into the design", () => {
  it("in its place, with its version", () => {
    const after = withMade(design(), [made({ after: SOUTH })], 8, []);
    expect(after.revision).toBe(8);
    expect(after.document.sites[1]).toEqual(SOUTH);
    expect(after.versions.sites?.south).toBe(5);
  });

  it("and is gone where it was taken out", () => {
    const after = withMade(design(), [made({ before: SOUTH })], 8, []);
    expect(after.document.sites.map((site) => site.id)).toEqual(["north", "east"]);
    expect(after.versions.sites).not.toHaveProperty("south");
  });

  it("also the settings, which stand in no list", () => {
    const change = made({ part: "settings", key: "design", version: 3, after: { name: "New" } });
    const after = withMade(design(), [change], 8, []);
    expect(after.document.name).toBe("New");
    expect(after.versions.settings).toEqual({ design: 3 });
  });
});

describe("taking back", () => {
  it("puts a removed entry back where it stood", () => {
    const removal = made({ before: SOUTH });
    const back = changesBack([removal]);
    expect(back).toEqual([{ part: "sites", key: "south", value: SOUTH, place: 1 }]);
    const without = withMade(design(), [removal], 8, []);
    const again = withMade(without, [made({ after: SOUTH, version: 6 })], 9, back);
    expect(again.document.sites.map((site) => site.id)).toEqual(["north", "south", "east"]);
  });

  it("undoes the last first", () => {
    const steps = [made({ key: "north", after: SOUTH }), made({ key: "east", after: SOUTH })];
    expect(changesBack(steps).map((one) => one.key)).toEqual(["east", "north"]);
  });
});

describe("what is on its way", () => {
  it("is built on by the next edit, and keeps the versions that were seen", () => {
    const wanted = withWanted(design(), [
      { part: "sites", key: "south", value: SOUTH },
      { part: "sites", key: "east", value: null },
    ]);
    expect(wanted.document.sites.map((site) => site.name)).toEqual(["", "South"]);
    expect(wanted.versions).toEqual(design().versions);
    expect(wanted.revision).toBe(7);
  });
});
