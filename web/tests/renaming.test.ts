import { describe, expect, it } from "vitest";
import type { DesignDocument, Ladder, RoutePart } from "../src/api/types";
import { withRenamedRung } from "../src/stations/rules/renaming";
import { houseRule } from "./house";

const ladder: Ladder = houseRule({ name: "legal", keep: "P7Y" });
const promoted: Ladder = {
  ...ladder,
  rungs: ladder.rungs.map((rung, at) => (at === 1 ? { ...rung, from: "weekly" } : rung)),
};

function design(...routes: unknown[]): DesignDocument {
  return { routes } as unknown as DesignDocument;
}

const USING = {
  id: "files",
  copies: [
    {
      id: "house",
      ladder: "house",
      lock: [{ for: "P1D", rungs: ["weekly"] }],
      step_downs: [{ after: "P6M", target: "cold", which: ["weekly", "legal"], lock: [] }],
    },
    {
      id: "away",
      ladder: "other",
      from: "house",
      take: { rungs: ["weekly"] },
      lock: [{ for: "P1D", rungs: ["weekly"] }],
    },
  ],
};

describe("a rung under another name", () => {
  const changes = withRenamedRung(design(USING), promoted, 0, "saturday");

  it("is promoted from under its new name", () => {
    const rungs = (changes[0]?.value as Ladder | undefined)?.rungs ?? [];
    expect(rungs.map((rung) => [rung.name, rung.from])).toEqual([
      ["saturday", "self-contained"],
      ["legal", "saturday"],
    ]);
  });

  it("is locked, stepped down and taken under it where its ladder rules, and only there", () => {
    const copies = (changes[1]?.value as RoutePart | undefined)?.copies ?? [];
    const [house, away] = copies;
    expect(house?.lock).toEqual([{ for: "P1D", rungs: ["saturday"] }]);
    expect(house?.step_downs[0]?.which).toEqual(["saturday", "legal"]);
    expect(away?.take).toEqual({ rungs: ["saturday"] });
    expect(away?.lock).toEqual([{ for: "P1D", rungs: ["weekly"] }]);
  });

  it("leaves routes alone that do not name it", () => {
    const plain = { id: "mail", copies: [{ id: "house", ladder: "house", lock: [], step_downs: [] }] };
    expect(withRenamedRung(design(plain), ladder, 0, "saturday")).toHaveLength(1);
    expect(withRenamedRung(design(plain), ladder, 9, "saturday")).toEqual([]);
  });
});
