import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { startTransition, useCallback, useEffect, useMemo, useRef, useState } from "react";
import { client, unwrap } from "../api/client";
import { keys } from "../api/keys";
import type { Consequences, Ladder } from "../api/types";
import { type Change, toSend } from "./changes";
import type { ShownFigures, Trial } from "./context";

export interface Figures {
  shown: ShownFigures;
  trial: Trial | null;
  /** With no change at all the trial is over, and the figures are those of the design as saved. */
  tryOut: (changes: Change[]) => void;
  /** Comes back when no trial is under way: its figures are on the page, and the server is free. */
  settled: () => Promise<void>;
}

/**
 * The figures of all targets. What is under the hand is tried through the whole engine without being saved: one request
 * is under way at a time and only the newest changes wait, so an older answer never replaces a newer one. The figures are
 * painted first; the words and the shelves of a ladder follow.
 */
export function useFigures(id: number, revision: number, on: string): Figures {
  const [tried, setTried] = useState<Consequences | null>(null);
  const [trial, setTrial] = useState<Trial | null>(null);
  const waiting = useRef<Change[] | null>(null);
  const underWay = useRef(false);
  const running = useRef<Promise<void>>(Promise.resolve());
  const round = useRef(0);
  // The date that is looked at now: a trial that is under way when it changes was asked for another.
  const asked = useRef(on);
  asked.current = on;

  const saved = useQuery({
    queryKey: keys.consequences(id, revision, on),
    queryFn: () =>
      unwrap(client.GET("/api/designs/{id}/consequences", { params: { path: { id }, query: { on } } })),
    placeholderData: keepPreviousData,
  });

  const over = useCallback(() => {
    round.current += 1;
    waiting.current = null;
    setTried(null);
    setTrial(null);
  }, []);

  const tryNext = useCallback(async () => {
    underWay.current = true;
    const params = { path: { id } };
    while (waiting.current !== null) {
      const changes = waiting.current;
      waiting.current = null;
      const mine = round.current;
      const date = asked.current;
      const body = { changes: changes.map((change) => toSend(change, null)), on: date };
      // What is half typed may be refused; then nothing is tried, and the figures are the saved ones.
      const answer = await unwrap(client.POST("/api/designs/{id}/trial", { params, body })).catch(() => null);
      if (mine !== round.current || date !== asked.current) continue;
      if (answer === null) {
        if (waiting.current === null) over();
        continue;
      }
      setTried(answer.consequences);
      const ladder = firstLadder(changes);
      const { reading } = answer;
      if (ladder === null || reading === null) continue;
      startTransition(() => setTrial((before) => ({ ladder, reading, shelves: before?.shelves ?? null })));
      if (waiting.current !== null) continue;
      void unwrap(client.POST("/api/designs/{id}/trial/shelves", { params, body })).then(
        ({ shelves }) => {
          const isNewest = mine === round.current && waiting.current === null && !underWay.current;
          if (isNewest) startTransition(() => setTrial((before) => before && { ...before, shelves }));
        },
        () => undefined,
      );
    }
    underWay.current = false;
  }, [id, over]);

  const tryOut = useCallback(
    (changes: Change[]) => {
      if (changes.length === 0) return over();
      waiting.current = changes;
      if (!underWay.current) running.current = tryNext();
    },
    [tryNext, over],
  );

  // biome-ignore lint/correctness/useExhaustiveDependencies: another revision or date ends a trial made on the one before
  useEffect(over, [revision, on]);

  const shown = useMemo(
    () => ({ consequences: tried ?? saved.data, tried: tried !== null }),
    [tried, saved.data],
  );
  const settled = useCallback(() => running.current, []);
  return { shown, trial, tryOut, settled };
}

function firstLadder(changes: readonly Change[]): Ladder | null {
  for (const change of changes) if (change.part === "ladders" && change.value) return change.value;
  return null;
}
