import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { client, unwrap } from "../api/client";
import type { Consequences, Ladder, LadderReading, ShelfOfCopy } from "../api/types";

interface Trial {
  ladder: Ladder;
  reading: LadderReading;
  consequences: Consequences;
  shelves: ShelfOfCopy[];
}

export interface Figures {
  consequences: Consequences | undefined;
  trial: Trial | null;
  tryLadder: (ladder: Ladder) => void;
  endTrial: () => void;
}

/**
 * The figures of all targets. A ladder under the hand is tried through the whole engine without being saved: one request
 * is under way at a time and only the newest ladder waits, so an older answer never replaces a newer one.
 */
export function useFigures(id: number, revision: number, on: string): Figures {
  const [trial, setTrial] = useState<Trial | null>(null);
  const waiting = useRef<Ladder | null>(null);
  const underWay = useRef(false);
  const round = useRef(0);

  const saved = useQuery({
    queryKey: ["consequences", id, revision, on],
    queryFn: () =>
      unwrap(client.GET("/api/designs/{id}/consequences", { params: { path: { id }, query: { on } } })),
    placeholderData: keepPreviousData,
  });

  const endTrial = useCallback(() => {
    round.current += 1;
    waiting.current = null;
    setTrial(null);
  }, []);

  const tryNext = useCallback(async () => {
    if (underWay.current) return;
    underWay.current = true;
    while (waiting.current !== null) {
      const ladder = waiting.current;
      waiting.current = null;
      const mine = round.current;
      const answer = await unwrap(
        client.POST("/api/designs/{id}/trial", { params: { path: { id } }, body: { ladder, on } }),
      ).catch(() => null);
      // A ladder that is half typed may be refused; the figures of the last sound one stay. So does a trial that ended.
      if (answer !== null && mine === round.current) setTrial({ ladder, ...answer });
    }
    underWay.current = false;
  }, [id, on]);

  const tryLadder = useCallback(
    (ladder: Ladder) => {
      waiting.current = ladder;
      void tryNext();
    },
    [tryNext],
  );

  // biome-ignore lint/correctness/useExhaustiveDependencies: another revision or date ends a trial made on the one before
  useEffect(endTrial, [revision, on]);

  return { consequences: trial?.consequences ?? saved.data, trial, tryLadder, endTrial };
}
