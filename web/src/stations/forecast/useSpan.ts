import { useCallback, useMemo } from "react";
import { useSearchParams } from "react-router";
import type { Days } from "../../api/types";
import { useDesign } from "../../design/context";
import { useAddress } from "../../shared/useAddressed";

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

/** The days that a chart shows, kept in the address; days that the design does not have are not shown. */
export function useSpan(): [Span, (span: Span) => void] {
  const { days } = useDesign();
  const [search] = useSearchParams();
  const write = useAddress();
  const [first, last] = [search.get("from"), search.get("to")];
  const span = useMemo(() => {
    const [from, to] = [days.dates.indexOf(first ?? ""), days.dates.indexOf(last ?? "")];
    return from >= 0 && to >= 0 ? spanOf(days, from, to) : null;
  }, [days, first, last]);
  const set = useCallback(
    (wanted: Span) => write({ from: wanted?.first ?? null, to: wanted?.last ?? null }),
    [write],
  );
  return [span, set];
}
