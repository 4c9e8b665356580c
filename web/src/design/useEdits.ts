import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState, useSyncExternalStore } from "react";
import { client, unwrap } from "../api/client";
import { keys } from "../api/keys";
import type { Command, DesignOut, EntryOf, PartName } from "../api/types";
import { nextTry } from "../api/waiting";
import type { Cells, Change } from "./changes";
import { EditQueue } from "./EditQueue";
import type { EditState, Made } from "./editing";

export interface Edits extends EditState {
  edit: (changes: Change[], what: string) => Promise<boolean>;
  type: (cells: Cells[], what: string) => Promise<string | null>;
  command: (command: Command, what: string) => Promise<Made[] | null>;
  /** Makes one change. */
  save: <P extends PartName>(
    part: P,
    key: string,
    value: EntryOf[P] | null,
    what: string,
  ) => Promise<boolean>;
  undo: () => void;
  redo: () => void;
  settle: (keepMine: boolean) => void;
  whyRefused: () => string;
}

/** The edits of an open design: a queue that lasts as long as the page shows it. */
export function useEdits(id: number, on: string, settled: () => Promise<void>): Edits {
  const cache = useQueryClient();
  const now = useRef({ on, settled });
  now.current = { on, settled };
  const [queue] = useState(
    () =>
      new EditQueue({
        design: () => cache.getQueryData<DesignOut>(keys.design(id)),
        show: (change) =>
          void cache.setQueryData<DesignOut>(keys.design(id), (before) => before && change(before)),
        fetchAnew: () => cache.invalidateQueries({ queryKey: keys.design(id) }),
        keep: ({ revision, consequences, duties }) => {
          cache.setQueryData(keys.consequences(id, revision, consequences.on), consequences);
          const reference = cache.getQueryData<DesignOut>(keys.design(id))?.reference_revision ?? null;
          if (duties) cache.setQueryData(keys.verdicts(id, revision, reference), duties);
        },
        on: () => now.current.on,
        settled: () => now.current.settled(),
        postChanges: (changes, asOf, what, undoes) =>
          unwrap(
            client.POST("/api/designs/{id}/edits", {
              params: { path: { id } },
              body: { changes, on: asOf, what, undoes },
            }),
          ),
        postCommand: (command, seen, asOf, what) =>
          unwrap(
            client.POST("/api/designs/{id}/commands", {
              params: { path: { id } },
              body: { command, seen, on: asOf, what },
            }),
          ),
        nextTry,
      }),
  );
  useEffect(() => {
    // What cannot be fetched now is still in the history.
    unwrap(client.GET("/api/designs/{id}/steps", { params: { path: { id } } })).then(
      queue.takeUp,
      () => null,
    );
  }, [id, queue]);
  const state = useSyncExternalStore(queue.subscribe, queue.snapshot);
  return useMemo(() => {
    const { edit, type, command, undo, redo, settle, whyRefused } = queue;
    const save: Edits["save"] = (part, key, value, what) => edit([{ part, key, value } as Change], what);
    return {
      ...state,
      edit: (changes, what) => edit(changes, what),
      type,
      command: (one, what) => command(one, what),
      save,
      undo,
      redo,
      settle,
      whyRefused,
    };
  }, [queue, state]);
}
