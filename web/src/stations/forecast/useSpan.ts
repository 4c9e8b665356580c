import type { Days } from "../../api/types";

/** The days that a chart shows, both included; null for all. */
export type Span = { first: string; last: string } | null;

const HALF_YEAR = 183;

/** About a year around a day. */
export function spanAround(days: Days, place: number): Span {
  return spanOf(days, place - HALF_YEAR, place + HALF_YEAR);
}

/** The days from one place to another, within the design; null for fewer than three. */
export function spanOf(days: Days, from: number, to: number): Span {
  const last = days.dates.length - 1;
  const [begin, end] = [Math.max(0, Math.min(from, to)), Math.min(last, Math.max(from, to))];
  if (end - begin < 2) return null;
  return { first: days.dates[begin] ?? "", last: days.dates[end] ?? "" };
}
