import type { Days } from "../api/types";

const MOST_STOPS = 130;
const LEAST_MONTHS = 40;

/**
 * The places at which the as-of handle stops when it is moved by hand: the ends of months, in a long design of every
 * second or third month, in a short one days that lie as far apart. Between two of them there is hardly a pixel's way; a
 * day in between is reached by the arrow keys.
 */
export function stopsOf({ dates, month_begins }: Days): number[] {
  const last = dates.length - 1;
  const monthEnds = [...month_begins.slice(1).map((begin) => begin - 1), last];
  const all = monthEnds.length < LEAST_MONTHS ? dates.map((_, at) => at) : monthEnds;
  const step = Math.ceil(all.length / MOST_STOPS);
  // Counted from the end, so that the last day is one of them.
  const some = all.filter((_, at) => (all.length - 1 - at) % step === 0);
  return some[0] === 0 ? some : [0, ...some];
}

/** The stop that a place is nearest to. */
export function nearestStop(stops: readonly number[], place: number): number {
  return stops.reduce(
    (best, stop) => (Math.abs(stop - place) < Math.abs(best - place) ? stop : best),
    stops[0] ?? 0,
  );
}

/** The stops by how far they are from a place, the nearest first. */
export function stopsFrom(stops: readonly number[], place: number): number[] {
  return [...stops].sort((one, other) => Math.abs(one - place) - Math.abs(other - place));
}
