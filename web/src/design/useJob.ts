import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { client, unwrap } from "../api/client";
import { keys } from "../api/keys";
import type { JobIn, JobOut } from "../api/types";
import { useDesign } from "./context";

const ASKED_EVERY_MS = 300;

/** Whether a job has not come to its end yet. */
export const goesOn = (job: JobOut | undefined) => job?.state === "waiting" || job?.state === "running";

/** Whether a job has come to an end that gave nothing. */
export const endedWithout = (job: JobOut | undefined) => job?.state === "failed" || job?.state === "stopped";

/** A job, asked about until it has ended. */
export function useJobState(key: string | undefined) {
  return useQuery({
    queryKey: keys.job(key),
    queryFn: () => unwrap(client.GET("/api/jobs/{key}", { params: { path: { key: key ?? "" } } })),
    enabled: key !== undefined,
    refetchInterval: ({ state }) => (goesOn(state.data) ? ASKED_EVERY_MS : false),
  });
}

/** Asks for a job about the design as of the date. */
export function useAskForJob() {
  const { design, on } = useDesign();
  return (asked: Partial<JobIn> & Pick<JobIn, "kind">) =>
    unwrap(
      client.POST("/api/designs/{id}/jobs", {
        params: { path: { id: design.id } },
        body: {
          on,
          draws: 1000,
          seed: 1,
          target: "",
          ladder: "",
          rung: "",
          file: "",
          duty: "",
          ask: 0,
          ...asked,
        },
      }),
    );
}

/** Stops a job; what goes wrong with that shows in the job's state. */
export function stopJob(key: string) {
  void client.DELETE("/api/jobs/{key}", { params: { path: { key } } });
}

/**
 * Long work about the design in the background: what was last begun of a kind, by anybody, how far it is, and its result.
 * It stays while the person looks elsewhere; `fresh` says whether it is about the design and, where it depends on it, the
 * date as they are now.
 */
export function useJob(kind: JobOut["kind"]) {
  const { design, on } = useDesign();
  const id = design.id;
  const queries = useQueryClient();
  const ask = useAskForJob();
  const begunKey = keys.jobBegun(id, kind);
  // What was begun before the page was opened is found again.
  const { data: begun = null, isPending } = useQuery<{ key: string; on: string } | null>({
    queryKey: begunKey,
    queryFn: async () => {
      const { jobs } = await unwrap(client.GET("/api/designs/{id}/jobs", { params: { path: { id } } }));
      const found = jobs.find((one) => one.kind === kind);
      return found ? { key: found.id, on: found.on } : null;
    },
    staleTime: Number.POSITIVE_INFINITY,
  });
  const start = useMutation({
    mutationFn: (more: { draws?: number; seed?: number }) => ask({ kind, ...more }),
    onSuccess: (job) => queries.setQueryData(begunKey, { key: job.id, on: job.on }),
  });
  const job = useJobState(begun?.key);
  const found = begun === null ? undefined : job.data;
  const isLookingForIt = isPending || (begun !== null && job.isPending);
  return {
    job: found,
    isLookingForIt,
    fresh:
      found !== undefined && found.revision === design.revision && (kind !== "rules" || begun?.on === on),
    begin: (more: { draws?: number; seed?: number } = {}) => start.mutate(more),
    stop: () => begun && stopJob(begun.key),
    error: start.error ?? job.error,
  };
}

/** The bands of what is not known, while they are about the design as it is. */
export function useBands() {
  const { job, fresh } = useJob("bands");
  return fresh ? (job?.bands ?? undefined) : undefined;
}
