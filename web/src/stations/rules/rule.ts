import type { Cadence, Copy, Ladder } from "../../api/types";

/** A rule that copies go by: which of the two it is, and itself. */
export type Rule = { part: "ladders"; entry: Ladder } | { part: "cadences"; entry: Cadence };

/** A copy that goes by another rule of the same kind. */
export function withRule(copy: Copy, part: Rule["part"], id: string): Copy {
  return part === "ladders" ? { ...copy, ladder: id } : { ...copy, cadence: id };
}

/** The rule of this kind that a copy goes by; null for none, as where tapes rotate or another copy is followed. */
export function ruleOf(copy: Copy, part: Rule["part"]): string | null {
  return (part === "ladders" ? copy.ladder : copy.cadence) ?? null;
}
