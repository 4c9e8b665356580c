import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useMemo, useRef, useState } from "react";
import { client, ProblemError, staleProblem, unwrap } from "../api/client";
import type { DesignOut, EditOut, EntryOf, ListName, PartName, StaleProblem } from "../api/types";
import { isWorthWaitingFor, nextTry } from "../api/waiting";
import { type Cells, type Change, changesTo, entryOf, nameOf, toSend, withMade, withWanted } from "./changes";

/** How the last edit stands. */
export type SaveState =
  | { state: "idle" }
  | { state: "saving" }
  | { state: "waiting"; why: string }
  | { state: "saved"; what: string }
  | { state: "failed"; why: string };

interface Step {
  made: EditOut["made"];
  what: string;
}

/** Changes that came too late: what was to be done, and what the server says of the entries now. */
export interface Conflict {
  changes: Change[];
  problem: StaleProblem;
  what: string;
}

export interface Edits {
  /** Makes changes at once; false when they were refused. */
  edit: (changes: Change[], what: string) => Promise<boolean>;
  /** Makes changes of what was typed into cells; null when they were made, else why not. Nothing is shown before. */
  type: (cells: Cells[], what: string) => Promise<string | null>;
  /** Makes one change. */
  save: <P extends PartName>(
    part: P,
    key: string,
    value: EntryOf[P] | null,
    what: string,
  ) => Promise<boolean>;
  /** Takes an entry out, with another in its place wherever it is referred to. */
  takeOut: (part: ListName, key: string, instead: string | null, what: string) => Promise<boolean>;
  saveState: SaveState;
  undo: () => void;
  redo: () => void;
  undoWhat: string | null;
  redoWhat: string | null;
  conflict: Conflict | null;
  settle: (keepMine: boolean) => void;
  /** Why the last edit that was refused was so. */
  whyRefused: () => string;
}

type Seen = (part: string, key: string) => number | null;

/** Saves edits one after another, each with the versions it was made on, and keeps what undo needs. */
export function useEdits(id: number, on: string, settled: () => Promise<void>): Edits {
  const cache = useQueryClient();
  const line = useRef<Promise<unknown>>(Promise.resolve());
  // The versions that this page's own edits led to: undo takes back these and nobody else's.
  const mine = useRef(new Map<string, number>());
  // Edits that are not answered yet, in their order: what is edited meanwhile must not take them back.
  const pending = useRef<Change[][]>([]);
  const [done, setDone] = useState<Step[]>([]);
  const [undone, setUndone] = useState<Step[]>([]);
  const [saveState, setSaveState] = useState<SaveState>({ state: "idle" });
  const [conflict, setConflict] = useState<Conflict | null>(null);
  const lastWhy = useRef("");
  const whyRefused = useCallback(() => lastWhy.current, []);

  const asShown = useCallback<Seen>(
    (part, key) => cache.getQueryData<DesignOut>(["design", id])?.versions[part]?.[key] ?? null,
    [cache, id],
  );

  const take = useCallback(
    (answer: EditOut, sent: readonly Change[], what: string) => {
      for (const one of answer.made) mine.current.set(nameOf(one.part, one.key), one.version);
      cache.setQueryData<DesignOut>(["design", id], (before) => {
        if (!before) return before;
        const made = withMade(before, answer.made, answer.revision, sent);
        return pending.current.filter((changes) => changes !== sent).reduce(withWanted, made);
      });
      cache.setQueryData(["consequences", id, answer.revision, answer.consequences.on], answer.consequences);
      setSaveState({ state: "saved", what });
    },
    [cache, id],
  );

  const refuse = useCallback(
    async (error: unknown, changes: Change[], what: string) => {
      const problem = staleProblem(error);
      if (problem) setConflict({ changes, problem, what });
      const why = error instanceof ProblemError ? error.words : "Something went wrong in this page";
      lastWhy.current = why;
      setSaveState({ state: "failed", why });
      await cache.invalidateQueries({ queryKey: ["design", id] });
    },
    [cache, id],
  );

  const post = useCallback(
    async (changes: (Change | Cells)[], what: string, seen: Seen): Promise<EditOut> => {
      setSaveState({ state: "saving" });
      const body = {
        changes: changes.map((one) => {
          const { part, key } = entryOf(one);
          return toSend(one, seen(part, key));
        }),
        on,
        what: what.slice(0, 300),
      };
      // What cannot get through now is kept, and sent again until it does.
      for (;;) {
        try {
          return await unwrap(client.POST("/api/designs/{id}/edits", { params: { path: { id } }, body }));
        } catch (error) {
          if (!isWorthWaitingFor(error)) throw error;
          setSaveState({ state: "waiting", why: (error as ProblemError).words });
          await nextTry();
        }
      }
    },
    [id, on],
  );

  const send = useCallback(
    async (changes: Change[], what: string, said: string, seen: Seen): Promise<EditOut | null> => {
      try {
        const answer = await post(changes, what, seen);
        take(answer, changes, said);
        return answer;
      } catch (error) {
        await refuse(error, changes, what);
        return null;
      }
    },
    [post, refuse, take],
  );

  const inLine = useCallback(<T>(work: () => Promise<T>): Promise<T> => {
    const next = line.current.then(work);
    line.current = next.catch(() => null);
    return next;
  }, []);

  const remember = useCallback((answer: EditOut | null, what: string): boolean => {
    if (answer === null) return false;
    setDone((before) => [...before, { made: answer.made, what }]);
    setUndone([]);
    return true;
  }, []);

  const edit = useCallback(
    (changes: Change[], what: string, seen: Seen = asShown) => {
      pending.current = [...pending.current, changes];
      cache.setQueryData<DesignOut>(["design", id], (before) => before && withWanted(before, changes));
      return inLine(async () => {
        await settled();
        try {
          return remember(await send(changes, what, `Saved: ${what}`, seen), what);
        } finally {
          pending.current = pending.current.filter((one) => one !== changes);
        }
      });
    },
    [cache, id, inLine, send, settled, remember, asShown],
  );

  const type = useCallback(
    (cells: Cells[], what: string) =>
      inLine(async () => {
        await settled();
        try {
          const answer = await post(cells, what, asShown);
          take(answer, [], `Saved: ${what}`);
          remember(answer, what);
          return null;
        } catch (error) {
          const why = error instanceof ProblemError ? error.words : "Something went wrong in this page";
          setSaveState({ state: "failed", why });
          if (staleProblem(error)) await cache.invalidateQueries({ queryKey: ["design", id] });
          return why;
        }
      }),
    [cache, id, inLine, post, settled, take, remember, asShown],
  );

  const save = useCallback(
    <P extends PartName>(part: P, key: string, value: EntryOf[P] | null, what: string) =>
      edit([{ part, key, value } as Change], what),
    [edit],
  );

  const takeOut = useCallback(
    (part: ListName, key: string, instead: string | null, what: string) =>
      inLine(async () => {
        await settled();
        setSaveState({ state: "saving" });
        const seen = cache.getQueryData<DesignOut>(["design", id])?.versions ?? {};
        const body = { part, key, instead, on, what, seen };
        try {
          const answer = await unwrap(
            client.POST("/api/designs/{id}/removals", { params: { path: { id } }, body }),
          );
          take(answer, [], `Saved: ${what}`);
          return remember(answer, what);
        } catch (error) {
          await refuse(error, [{ part, key, value: null } as Change], what);
          return false;
        }
      }),
    [cache, id, on, inLine, settled, take, refuse, remember],
  );

  const move = useCallback(
    (from: Step[], back: boolean) => {
      const step = from.at(-1);
      if (!step) return;
      const [setFrom, setTo] = back ? [setDone, setUndone] : [setUndone, setDone];
      setFrom((before) => before.slice(0, -1));
      void inLine(async () => {
        const isThere = new Map(
          step.made.map((one) => [nameOf(one.part, one.key), (back ? one.after : one.before) !== null]),
        );
        const seen: Seen = (part, key) => {
          const name = nameOf(part, key);
          return isThere.get(name) ? (mine.current.get(name) ?? null) : null;
        };
        const said = `${back ? "Undone" : "Done again"}: ${step.what}`;
        const answer = await send(changesTo(step.made, back), said, said, seen);
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
      if (!open || !keepMine) return;
      const versions = new Map(
        (open.problem.entries ?? []).map((one) => [nameOf(one.part, one.key), one.version ?? null]),
      );
      const seen: Seen = (part, key) => versions.get(nameOf(part, key)) ?? asShown(part, key);
      void edit(open.changes, open.what, seen);
    },
    [conflict, edit, asShown],
  );

  const undo = useCallback(() => move(done, true), [move, done]);
  const redo = useCallback(() => move(undone, false), [move, undone]);
  const undoWhat = done.at(-1)?.what ?? null;
  const redoWhat = undone.at(-1)?.what ?? null;
  return useMemo(
    () => ({
      edit,
      type,
      save,
      takeOut,
      saveState,
      undo,
      redo,
      undoWhat,
      redoWhat,
      conflict,
      settle,
      whyRefused,
    }),
    [edit, type, save, takeOut, saveState, undo, redo, undoWhat, redoWhat, conflict, settle, whyRefused],
  );
}
