import type { Bar, Ladder } from "../../api/types";
import { durationText, isUnit, partsOf, type Unit } from "../../shared/durations";

type Keep = Ladder["recent"][number]["keep"] | Ladder["rungs"][number]["keep"];

/** How a rule keeps, as one choice: counted, for a time in a unit, or for good. */
export type Way = Unit | "counted" | "forever" | "superseded" | "other";

export function wayOf(bar: Bar): Way {
  if (bar.keep === "points" || bar.keep === "periods") return "counted";
  if (bar.keep === "forever" || bar.keep === "superseded") return bar.keep;
  if (bar.keep === "time" && bar.unit && isUnit(bar.unit)) return bar.unit;
  return "other";
}

/** The keep of a way and a number, in the words of the document. */
export function keepOf(way: Way, count: number, part: Bar["part"]): Keep {
  if (way === "forever") return "forever";
  if (way === "superseded") return { superseded: { extra: 0 } };
  if (way === "counted") return part === "recent" ? { points: count } : { periods: count };
  return durationText(count, isUnit(way) ? way : "day");
}

/** The ladder with another keep for one of its rules. */
export function withKeep(ladder: Ladder, bar: Bar, keep: Keep): Ladder {
  if (bar.part === "recent") {
    const recent = ladder.recent.map((rule, at) =>
      at === bar.place ? { ...rule, keep: keep as typeof rule.keep } : rule,
    );
    return { ...ladder, recent };
  }
  const rungs = ladder.rungs.map((rung, at) =>
    at === bar.place ? { ...rung, keep: keep as typeof rung.keep } : rung,
  );
  return { ...ladder, rungs };
}

/** The number that a keep of this bar holds now. */
export function countIn(ladder: Ladder, bar: Bar): number {
  const keep = bar.part === "recent" ? ladder.recent[bar.place]?.keep : ladder.rungs[bar.place]?.keep;
  if (typeof keep === "string") return partsOf(keep)?.count ?? 0;
  if (keep && "points" in keep) return keep.points;
  if (keep && "periods" in keep) return keep.periods;
  return 0;
}
