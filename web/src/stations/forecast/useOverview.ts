import { keepPreviousData, queryOptions, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { client, unwrap } from "../../api/client";
import { useDesign } from "../../design/context";
import { monthsAway } from "../../design/useAsOf";

const AHEAD_AFTER_MS = 120;

function overviewOn(id: number, revision: number, on: string) {
  return queryOptions({
    queryKey: ["overview", id, revision, on],
    queryFn: () =>
      unwrap(client.GET("/api/designs/{id}/overview", { params: { path: { id }, query: { on } } })),
    staleTime: Number.POSITIVE_INFINITY,
  });
}

/** All targets at the as-of date. Where the date rests, the same a month before and after is asked for ahead, since the
 * next step mostly goes there. */
export function useOverview() {
  const { design, days, place, on } = useDesign();
  const { id, revision } = design;
  const cache = useQueryClient();
  const answer = useQuery({ ...overviewOn(id, revision, on), placeholderData: keepPreviousData });
  const rests = answer.isSuccess && !answer.isPlaceholderData;
  useEffect(() => {
    if (!rests) return;
    const timer = setTimeout(async () => {
      for (const months of [1, -1]) {
        const date = days.dates[monthsAway(days, place, months)];
        if (date) await cache.prefetchQuery(overviewOn(id, revision, date));
      }
    }, AHEAD_AFTER_MS);
    return () => clearTimeout(timer);
  }, [rests, cache, days, place, id, revision]);
  return answer;
}
