import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { client, unwrap } from "../api/client";
import type { WorkOut } from "../api/types";
import { useDesign } from "./context";

const ASKED_EVERY_MS = 300;

/**
 * Long work about the design in the background: what was last begun of a kind, how far it is, and its result. It stays
 * while the person looks elsewhere; `fresh` says whether it is about the design and, where it depends on it, the date as
 * they are now.
 */
export function useWork(kind: WorkOut["kind"]) {
  const { design, on } = useDesign();
  const id = design.id;
  const queries = useQueryClient();
  const begunKey = ["work-begun", id, kind];
  // What was begun before the page was opened is found again.
  const { data: begun = null, isPending } = useQuery<{ key: string; on: string } | null>({
    queryKey: begunKey,
    queryFn: async () => {
      const { works } = await unwrap(client.GET("/api/designs/{id}/work", { params: { path: { id } } }));
      const found = works.find((one) => one.kind === kind);
      return found ? { key: found.id, on: found.on } : null;
    },
    staleTime: Number.POSITIVE_INFINITY,
  });
  const start = useMutation({
    mutationFn: (more: { draws?: number; seed?: number }) =>
      unwrap(
        client.POST("/api/designs/{id}/work", {
          params: { path: { id } },
          body: { kind, on, draws: 1000, seed: 1, ...more },
        }),
      ),
    onSuccess: (work) => queries.setQueryData(begunKey, { key: work.id, on }),
  });
  const work = useQuery({
    queryKey: ["work", begun?.key],
    queryFn: () => unwrap(client.GET("/api/work/{key}", { params: { path: { key: begun?.key ?? "" } } })),
    enabled: begun !== null,
    refetchInterval: ({ state }) => (state.data?.state === "running" ? ASKED_EVERY_MS : false),
  });
  const stop = () => {
    if (begun) void client.DELETE("/api/work/{key}", { params: { path: { key: begun.key } } });
  };
  const found = begun === null ? undefined : work.data;
  const isLookingForIt = isPending || (begun !== null && work.isPending);
  return {
    work: found,
    isLookingForIt,
    fresh:
      found !== undefined && found.revision === design.revision && (kind !== "rules" || begun?.on === on),
    begin: (more: { draws?: number; seed?: number } = {}) => start.mutate(more),
    stop,
    error: start.error ?? work.error,
  };
}

/** The bands of what is not known, while they are about the design as it is. */
export function useBands() {
  const { work, fresh } = useWork("bands");
  return fresh ? (work?.bands ?? undefined) : undefined;
}
