import {
  keepPreviousData,
  type QueryClient,
  queryOptions,
  useQuery,
  useQueryClient,
} from "@tanstack/react-query";
import { useEffect, useMemo } from "react";
import { client, unwrap } from "../../api/client";
import { keys } from "../../api/keys";
import type { Days, OverviewOut } from "../../api/types";
import { useDesign } from "../../design/context";
import { stopsFrom, stopsOf } from "../../design/stops";
import { monthsAway } from "../../design/useAsOf";

const AHEAD_AFTER_MS = 120;
const AT_ONCE = 10;
const PAUSE_MS = 40;
const KEPT_MS = 30 * 60_000;
/** So many spines are kept for dates that nobody has asked for yet. */
const MOST_SPINES = 600_000;

function overviewOn(id: number, revision: number, on: string) {
  return queryOptions({
    queryKey: keys.overview(id, revision, on),
    queryFn: () =>
      unwrap(client.GET("/api/designs/{id}/overview", { params: { path: { id }, query: { on } } })),
    staleTime: Number.POSITIVE_INFINITY,
  });
}

/** All targets at the as-of date. While the date rests, those to which a key or the hand would move it are asked for ahead,
 * the nearest first, so that moving it paints at once. */
export function useOverview() {
  const { design, days, place, on } = useDesign();
  const { id, revision } = design;
  const cache = useQueryClient();
  const stops = useMemo(() => stopsOf(days), [days]);
  const answer = useQuery({ ...overviewOn(id, revision, on), placeholderData: keepPreviousData });
  const rests = answer.isSuccess && !answer.isPlaceholderData;
  useEffect(() => {
    if (!rests) return;
    const moved = new AbortController();
    // What was asked for ahead has nobody who looks at it yet, and is kept all the same.
    cache.setQueryDefaults(["overview", id], { gcTime: KEPT_MS });
    const wanted = [...nextTo(days, place), ...stopsFrom(stops, place)];
    const timer = setTimeout(
      () => void askAhead(cache, id, revision, days, wanted, moved.signal),
      AHEAD_AFTER_MS,
    );
    return () => {
      clearTimeout(timer);
      moved.abort();
    };
  }, [rests, cache, days, stops, place, id, revision]);
  return answer;
}

/** Where the keys lead to: a month, a day, ten days, a year away. */
function nextTo(days: Days, place: number): number[] {
  const steps = [1, -1, 12, -12].map((months) => monthsAway(days, place, months));
  return [...steps.slice(0, 2), place + 1, place - 1, place + 10, place - 10, ...steps.slice(2)];
}

async function askAhead(
  cache: QueryClient,
  id: number,
  revision: number,
  days: Days,
  wanted: number[],
  signal: AbortSignal,
): Promise<void> {
  const key = (date: string) => overviewOn(id, revision, date).queryKey;
  const missing = [...new Set(wanted)]
    .flatMap((place) => days.dates[place] ?? [])
    .filter((date) => cache.getQueryData(key(date)) === undefined);
  let spines = 0;
  for (let at = 0; at < missing.length && !signal.aborted && spines < MOST_SPINES; at += AT_ONCE) {
    const on = missing.slice(at, at + AT_ONCE);
    const params = { path: { id }, query: { on } };
    // What is asked for ahead and fails is asked for again once it is wanted; only then is it somebody's concern.
    const found = await unwrap(client.GET("/api/designs/{id}/overviews", { params, signal })).catch(
      () => null,
    );
    if (found === null || found.some((one) => one.revision !== revision)) return;
    for (const one of found) {
      cache.setQueryData(key(one.overview.on), one);
      spines += countOf(one);
    }
    await new Promise((resolve) => setTimeout(resolve, PAUSE_MS));
  }
}

function countOf(one: OverviewOut): number {
  return one.spines.reduce((sum, row) => sum + row.age_days.length, 0);
}
