import { describe, expect, it } from "vitest";
import type { Bar } from "../src/api/types";
import { countIn, keepOf, wayOf, withKeep } from "../src/stations/rules/keeps";
import { houseRule, WEEKLY_BAR } from "./house";

const ladder = houseRule({ name: "yearly", keep: "P7Y" });

function bar(change: Partial<Bar>): Bar {
  return { ...WEEKLY_BAR, ...change };
}

describe("keeps", () => {
  it("says how a rule keeps", () => {
    expect(wayOf(bar({}))).toBe("counted");
    expect(wayOf(bar({ keep: "time", unit: "year" }))).toBe("year");
    expect(wayOf(bar({ keep: "forever" }))).toBe("forever");
    expect(wayOf(bar({ keep: "time", unit: null }))).toBe("other");
  });

  it("writes a keep in the words of the document", () => {
    expect(keepOf("counted", 9, "recent")).toEqual({ points: 9 });
    expect(keepOf("counted", 9, "rung")).toEqual({ periods: 9 });
    expect(keepOf("week", 5, "rung")).toBe("P5W");
    expect(keepOf("hour", 36, "recent")).toBe("PT36H");
    expect(keepOf("forever", 5, "rung")).toBe("forever");
  });

  it("changes one rule and leaves the others", () => {
    const changed = withKeep(ladder, bar({ place: 1 }), "P9Y");
    expect(changed.rungs.map((rung) => rung.keep)).toEqual([{ periods: 6 }, "P9Y"]);
    expect(changed.recent).toEqual(ladder.recent);
    expect(ladder.rungs[1]?.keep).toBe("P7Y");
  });

  it("reads the number back", () => {
    expect(countIn(ladder, bar({}))).toBe(6);
    expect(countIn(ladder, bar({ place: 1 }))).toBe(7);
    expect(countIn(ladder, bar({ part: "recent" }))).toBe(14);
  });
});
