import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useMemo } from "react";
import { useLocation } from "react-router";
import { client, unwrap } from "../api/client";
import { keys } from "../api/keys";
import type { Days, DesignOut } from "../api/types";
import { Notice } from "../shared/Notice";
import { useMirrored } from "../shared/useAddressed";
import { ConflictDialog } from "./ConflictDialog";
import { DesignContext, type EditedDesign, FiguresContext, TrialContext } from "./context";
import { RefusalContext } from "./refusal";
import { useAsOf } from "./useAsOf";
import { useEdits } from "./useEdits";
import { useFigures } from "./useFigures";
import { useOthers } from "./useOthers";

/** Loads a design and its days, then gives them to everything inside. */
export function DesignProvider({
  id,
  username,
  children,
}: {
  id: number;
  username: string;
  children: ReactNode;
}) {
  const cache = useQueryClient();
  const design = useQuery({
    queryKey: keys.design(id),
    queryFn: async () => {
      const found = await unwrap(client.GET("/api/designs/{id}", { params: { path: { id } } }));
      // An edit may have been saved while this was on its way; what is newer stays.
      const known = cache.getQueryData<DesignOut>(keys.design(id));
      return known && known.revision > found.revision ? known : found;
    },
    staleTime: Number.POSITIVE_INFINITY,
  });
  const settings = design.data?.document;
  const days = useQuery({
    queryKey: keys.days(id, settings?.starts, settings?.years, settings?.timezone),
    queryFn: () => unwrap(client.GET("/api/designs/{id}/days", { params: { path: { id } } })),
    enabled: settings !== undefined,
    staleTime: Number.POSITIVE_INFINITY,
  });
  const error = design.error ?? days.error;
  // What is open stays open, with all that was typed: an error that a retry would mend replaces nothing.
  if (error && !(design.data && days.data))
    return <Notice title="This design cannot be opened" error={error} />;
  if (!design.data || !days.data) return <Notice title="Fetching the design…" />;
  return (
    <Edited key={design.data.id} design={design.data} days={days.data} username={username}>
      {children}
    </Edited>
  );
}

function Edited({
  design,
  days,
  username,
  children,
}: {
  design: DesignOut;
  days: Days;
  username: string;
  children: ReactNode;
}) {
  const cache = useQueryClient();
  const { place, setPlace } = useAsOf(days);
  const on = days.dates[place] ?? "";
  useMirrored({ on });
  // The overview has figures of its own; what the time line needs of these is the same on all dates.
  const figuresOn = useLocation().pathname === "/forecast" ? (days.dates[0] ?? on) : on;
  const { shown, trial, tryOut, settled } = useFigures(design.id, design.revision, figuresOn);
  const edits = useEdits(design.id, on, settled);
  const others = useOthers(design, username);
  const { mutate: setReference } = useMutation({
    mutationFn: () =>
      unwrap(
        client.POST("/api/designs/{id}/reference", { params: { path: { id: design.id }, query: { on } } }),
      ),
    onSuccess: async () => {
      await cache.invalidateQueries({ queryKey: keys.design(design.id) });
      await cache.invalidateQueries({ queryKey: keys.consequences(design.id) });
      await cache.invalidateQueries({ queryKey: keys.series(design.id) });
    },
  });
  const value = useMemo<EditedDesign>(
    () => ({
      design,
      canEdit: design.role !== "viewer",
      days,
      place,
      setPlace,
      on,
      tryOut,
      ...edits,
      others,
      setReference,
    }),
    [design, days, place, setPlace, on, tryOut, edits, others, setReference],
  );
  return (
    <DesignContext.Provider value={value}>
      <RefusalContext.Provider value={edits.whyRefused}>
        <FiguresContext.Provider value={shown}>
          <TrialContext.Provider value={trial}>{children}</TrialContext.Provider>
        </FiguresContext.Provider>
      </RefusalContext.Provider>
      {edits.conflict && <ConflictDialog conflict={edits.conflict} onSettle={edits.settle} />}
    </DesignContext.Provider>
  );
}
