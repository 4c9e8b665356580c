import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useMemo } from "react";
import { client, unwrap } from "../api/client";
import type { Days, DesignOut } from "../api/types";
import { Notice } from "../shared/Notice";
import { ConflictDialog } from "./ConflictDialog";
import { DesignContext, type DesignHands, FiguresContext, TrialContext } from "./context";
import { useAsOf } from "./useAsOf";
import { useEdits } from "./useEdits";
import { useFigures } from "./useFigures";

/** Loads a design and its days, then gives them to everything inside. */
export function DesignProvider({ id, children }: { id: number; children: ReactNode }) {
  const design = useQuery({
    queryKey: ["design", id],
    queryFn: () => unwrap(client.GET("/api/designs/{id}", { params: { path: { id } } })),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const days = useQuery({
    queryKey: ["days", id, design.data?.document.starts, design.data?.document.years],
    queryFn: () => unwrap(client.GET("/api/designs/{id}/days", { params: { path: { id } } })),
    enabled: design.data !== undefined,
    staleTime: Number.POSITIVE_INFINITY,
  });
  const error = design.error ?? days.error;
  if (error) return <Notice title="This design cannot be opened" error={error} />;
  if (!design.data || !days.data) return <Notice title="Fetching the design…" />;
  return (
    <Hands design={design.data} days={days.data}>
      {children}
    </Hands>
  );
}

function Hands({ design, days, children }: { design: DesignOut; days: Days; children: ReactNode }) {
  const cache = useQueryClient();
  const { place, setPlace } = useAsOf(days);
  const on = days.dates[place] ?? "";
  const { shown, trial, tryLadder, settled } = useFigures(design.id, design.revision, on);
  const edits = useEdits(design.id, on, settled);
  const { mutate: setReference } = useMutation({
    mutationFn: () =>
      unwrap(
        client.POST("/api/designs/{id}/reference", { params: { path: { id: design.id }, query: { on } } }),
      ),
    onSuccess: async () => {
      await cache.invalidateQueries({ queryKey: ["design", design.id] });
      await cache.invalidateQueries({ queryKey: ["consequences", design.id] });
      await cache.invalidateQueries({ queryKey: ["series", design.id] });
    },
  });
  const hands = useMemo<DesignHands>(
    () => ({
      design,
      canEdit: design.role !== "viewer",
      days,
      place,
      setPlace,
      on,
      tryLadder,
      ...edits,
      setReference,
    }),
    [design, days, place, setPlace, on, tryLadder, edits, setReference],
  );
  return (
    <DesignContext.Provider value={hands}>
      <FiguresContext.Provider value={shown}>
        <TrialContext.Provider value={trial}>{children}</TrialContext.Provider>
      </FiguresContext.Provider>
      {edits.conflict && <ConflictDialog conflict={edits.conflict} onSettle={edits.settle} />}
    </DesignContext.Provider>
  );
}
