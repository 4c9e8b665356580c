import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useMemo, useRef, useState } from "react";
import { client, ProblemError, staleProblem, unwrap } from "../api/client";
import type { DesignOut, EditOut, Entry, EntryOf, ListName, StaleProblem } from "../api/types";

/** How the last edit stands. */
export type SaveState =
  | { state: "idle" }
  | { state: "saving" }
  | { state: "saved"; what: string }
  | { state: "failed"; why: string };

interface Step {
  list: ListName;
  key: string;
  before: Entry | null;
  after: Entry | null;
  what: string;
}

export interface Conflict {
  list: ListName;
  key: string;
  mine: Entry | null;
  problem: StaleProblem;
  what: string;
}

export interface Edits {
  save: <L extends ListName>(
    list: L,
    key: string,
    value: EntryOf[L] | null,
    what: string,
  ) => Promise<boolean>;
  saveState: SaveState;
  undo: () => void;
  redo: () => void;
  undoWhat: string | null;
  redoWhat: string | null;
  conflict: Conflict | null;
  settle: (keepMine: boolean) => void;
}

/** Saves edits one after another, each with the version it was made on, and keeps what undo needs. */
export function useEdits(id: number, on: string, settled: () => Promise<void>): Edits {
  const cache = useQueryClient();
  const line = useRef<Promise<unknown>>(Promise.resolve());
  const [done, setDone] = useState<Step[]>([]);
  const [undone, setUndone] = useState<Step[]>([]);
  const [saveState, setSaveState] = useState<SaveState>({ state: "idle" });
  const [conflict, setConflict] = useState<Conflict | null>(null);

  const send = useCallback(
    async (list: ListName, key: string, value: Entry | null, what: string): Promise<EditOut | null> => {
      const design = cache.getQueryData<DesignOut>(["design", id]);
      const seen = design?.versions[list]?.[key] ?? null;
      setSaveState({ state: "saving" });
      try {
        const answer = await put(id, list, key, value, seen, on);
        cache.setQueryData<DesignOut>(
          ["design", id],
          (before) => before && withEntry(before, list, key, answer),
        );
        cache.setQueryData(["consequences", id, answer.consequences.revision, on], answer.consequences);
        setSaveState({ state: "saved", what });
        return answer;
      } catch (error) {
        const problem = staleProblem(error);
        if (problem) setConflict({ list, key, mine: value, problem, what });
        const why = error instanceof ProblemError ? error.words : "Something went wrong in this page";
        setSaveState({ state: "failed", why });
        await cache.invalidateQueries({ queryKey: ["design", id] });
        return null;
      }
    },
    [cache, id, on],
  );

  const inLine = useCallback(<T>(work: () => Promise<T>): Promise<T> => {
    const next = line.current.then(work);
    line.current = next.catch(() => null);
    return next;
  }, []);

  const save = useCallback(
    <L extends ListName>(list: L, key: string, value: EntryOf[L] | null, what: string) =>
      inLine(async () => {
        await settled();
        const answer = await send(list, key, value, `Saved: ${what}`);
        if (answer === null) return false;
        const step = {
          list,
          key,
          what,
          before: answer.before as Entry | null,
          after: answer.after as Entry | null,
        };
        setDone((before) => [...before, step]);
        setUndone([]);
        return true;
      }),
    [inLine, send, settled],
  );

  const move = useCallback(
    (from: Step[], back: boolean) => {
      const step = from.at(-1);
      if (!step) return;
      const [setFrom, setTo] = back ? [setDone, setUndone] : [setUndone, setDone];
      setFrom((before) => before.slice(0, -1));
      void inLine(async () => {
        const word = back ? "Undone" : "Done again";
        const answer = await send(
          step.list,
          step.key,
          back ? step.before : step.after,
          `${word}: ${step.what}`,
        );
        if (answer !== null) setTo((before) => [...before, step]);
      });
    },
    [inLine, send],
  );

  const settle = useCallback(
    (keepMine: boolean) => {
      const open = conflict;
      setConflict(null);
      setSaveState({ state: "idle" });
      if (open && keepMine) void save(open.list, open.key, open.mine as never, open.what);
    },
    [conflict, save],
  );

  const undo = useCallback(() => move(done, true), [move, done]);
  const redo = useCallback(() => move(undone, false), [move, undone]);
  const undoWhat = done.at(-1)?.what ?? null;
  const redoWhat = undone.at(-1)?.what ?? null;
  return useMemo(
    () => ({ save, saveState, undo, redo, undoWhat, redoWhat, conflict, settle }),
    [save, saveState, undo, redo, undoWhat, redoWhat, conflict, settle],
  );
}

function put(id: number, list: ListName, key: string, value: Entry | null, seen: number | null, on: string) {
  if (value === null) {
    const path = { id, list_name: list, key };
    const removal = { params: { path }, body: { seen: seen ?? 1, on } };
    return unwrap(client.POST("/api/designs/{id}/{list_name}/{key}/removal", removal));
  }
  const params = { path: { id, key } };
  const body = { seen, on };
  switch (list) {
    case "ladders":
      return unwrap(
        client.PUT("/api/designs/{id}/ladders/{key}", {
          params,
          body: { ...body, value: value as EntryOf["ladders"] },
        }),
      );
    case "cadences":
      return unwrap(
        client.PUT("/api/designs/{id}/cadences/{key}", {
          params,
          body: { ...body, value: value as EntryOf["cadences"] },
        }),
      );
    case "workloads":
      return unwrap(
        client.PUT("/api/designs/{id}/workloads/{key}", {
          params,
          body: { ...body, value: value as EntryOf["workloads"] },
        }),
      );
    case "targets":
      return unwrap(
        client.PUT("/api/designs/{id}/targets/{key}", {
          params,
          body: { ...body, value: value as EntryOf["targets"] },
        }),
      );
    case "sites":
      return unwrap(
        client.PUT("/api/designs/{id}/sites/{key}", {
          params,
          body: { ...body, value: value as EntryOf["sites"] },
        }),
      );
  }
}

function withEntry(design: DesignOut, list: ListName, key: string, answer: EditOut): DesignOut {
  const entries = design.document[list] as Entry[];
  const after = answer.after as Entry | null;
  const isThere = entries.some((entry) => entry.id === key);
  const changed = isThere
    ? entries.flatMap((entry) => (entry.id !== key ? [entry] : after ? [after] : []))
    : [...entries, ...(after ? [after] : [])];
  const versions = { ...design.versions[list] };
  if (after) versions[key] = answer.version;
  else delete versions[key];
  return {
    ...design,
    revision: answer.consequences.revision,
    document: { ...design.document, [list]: changed },
    versions: { ...design.versions, [list]: versions },
  };
}
