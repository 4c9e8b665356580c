import { useCallback, useMemo, useRef, useState } from "react";
import type { Workload } from "../../api/types";
import { useDesign } from "../../design/context";
import type { Column } from "./columns";

/** What was typed into a cell and is not saved: on its way, or refused with the reason. */
export interface Typed {
  text: string;
  /** In which cell it was typed. */
  place: string;
  /** Why it was refused; null while it is on its way. */
  why: string | null;
}

export interface TypedCells {
  /** By workload and field what is not saved. */
  of: (id: string, field: string) => Typed | undefined;
  refused: number;
  /** What was refused last, with the cell it was typed into. */
  newestRefused: { text: string; why: string; of: string } | undefined;
  /** Sends what was typed into a cell. It stays there until it is saved or given up. */
  keep: (workload: Workload, column: Column, text: string) => Promise<void>;
  giveUp: (id: string, field: string) => void;
}

/** Cells that are typed into: each is sent for itself, so that one that is refused takes no other with it. */
export function useTypedCells(): TypedCells {
  const { type } = useDesign();
  const [cells, setCells] = useState<ReadonlyMap<string, Typed>>(new Map());
  const newest = useRef(new Map<string, number>());
  const put = useCallback((key: string, typed: Typed | null) => {
    setCells((before) => {
      const after = new Map(before);
      if (typed === null) after.delete(key);
      else after.set(key, typed);
      return after;
    });
  }, []);
  const keep = useCallback(
    async (workload: Workload, column: Column, text: string) => {
      const key = `${workload.id}/${column.field}`;
      const turn = (newest.current.get(key) ?? 0) + 1;
      newest.current.set(key, turn);
      const place = `${column.name} of ${workload.name || workload.id}`;
      put(key, { text, place, why: null });
      const what = `${workload.name || workload.id}: ${column.name} ${text || "empty"}`;
      const why = await type(
        [{ part: "workload cells", key: workload.id, cells: { [column.reads ?? ""]: text } }],
        what,
      );
      // What was typed into the same cell since then stands there now.
      if (newest.current.get(key) === turn) put(key, why === null ? null : { text, place, why });
    },
    [type, put],
  );
  const giveUp = useCallback((id: string, field: string) => put(`${id}/${field}`, null), [put]);
  return useMemo(
    () => ({
      of: (id, field) => cells.get(`${id}/${field}`),
      refused: [...cells.values()].filter((one) => one.why !== null).length,
      newestRefused: newestOf(cells),
      keep,
      giveUp,
    }),
    [cells, keep, giveUp],
  );
}

function newestOf(cells: ReadonlyMap<string, Typed>): TypedCells["newestRefused"] {
  const last = [...cells.values()].reverse().find((one) => one.why !== null);
  return last?.why ? { text: last.text, why: last.why, of: `${last.place}: ` } : undefined;
}
