import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { startTransition, useEffect, useMemo, useRef, useState, useSyncExternalStore } from "react";
import { client, postAtOnce, unwrap } from "../api/client";
import { keys } from "../api/keys";
import type { DesignOut, Verdicts } from "../api/types";
import { type Change, toSend } from "./changes";
import type { ShownFigures, Trial } from "./context";
import { TrialRunner, type Tried } from "./TrialRunner";

export interface Figures {
  shown: ShownFigures;
  trial: Trial | null;
  /** With no change at all the trial is over, and the figures are those of the design as saved. */
  tryOut: (changes: Change[]) => void;
  /** Comes back when no trial is under way: its figures are on the page, and the server is free. */
  settled: () => Promise<void>;
}

/** The figures of all targets: those of the design as it is saved, or of what is under the hand and tried. */
export function useFigures(id: number, revision: number, on: string): Figures {
  // The date that is looked at now: a trial that is under way when it changes was asked for another.
  const asked = useRef(on);
  asked.current = on;
  const cache = useQueryClient();
  const [runner] = useState(() =>
    runnerOf(
      id,
      () => asked.current,
      () => (cache.getQueryData<DesignOut>(keys.design(id))?.document.duties ?? []).length > 0,
    ),
  );
  const { consequences, duties, trial } = useSyncExternalStore(runner.subscribe, runner.snapshot);
  const saved = useQuery({
    queryKey: keys.consequences(id, revision, on),
    queryFn: () =>
      unwrap(client.GET("/api/designs/{id}/consequences", { params: { path: { id }, query: { on } } })),
    placeholderData: keepPreviousData,
  });
  // biome-ignore lint/correctness/useExhaustiveDependencies: another revision or date ends a trial made on the one before
  useEffect(runner.end, [revision, on]);
  const shown = useMemo(
    () => ({ consequences: consequences ?? saved.data, duties, tried: consequences !== null }),
    [consequences, duties, saved.data],
  );
  return { shown, trial, tryOut: runner.tryOut, settled: runner.settled };
}

const A_MOMENT_MS = 120;

function runnerOf(id: number, on: () => string, hasDuties: () => boolean): TrialRunner {
  const params = { path: { id } };
  const body = (changes: Change[], date: string) => ({
    changes: changes.map((change) => toSend(change, null)),
    on: date,
  });
  return new TrialRunner({
    on,
    askFigures: (changes, date) => postAtOnce<Tried>(`/api/designs/${id}/trial`, body(changes, date)),
    askDuties: (changes, date) =>
      hasDuties()
        ? postAtOnce<Verdicts>(`/api/designs/${id}/trial/verdicts`, body(changes, date))
        : Promise.resolve(null),
    askShelves: async (changes, date) =>
      (await unwrap(client.POST("/api/designs/{id}/trial/shelves", { params, body: body(changes, date) })))
        .shelves,
    aMoment: () => new Promise((resolve) => setTimeout(resolve, A_MOMENT_MS)),
    later: startTransition,
  });
}
