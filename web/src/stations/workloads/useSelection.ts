import { useCallback, useState } from "react";

/** A cell by its row and column. */
export interface Cell {
  row: number;
  column: number;
}

export interface Selection {
  /** The cell under the hand, and the other corner of the block when Shift spans one. */
  active: Cell;
  anchor: Cell;
  chosen: ReadonlySet<string>;
  go: (cell: Cell, extend: boolean) => void;
  toggle: (ids: readonly string[], on: boolean) => void;
  clear: () => void;
}

/** Which cell is under the hand, which block it spans, and which rows are chosen. */
export function useSelection(): Selection {
  const [active, setActive] = useState<Cell>({ row: 0, column: 0 });
  const [anchor, setAnchor] = useState<Cell>({ row: 0, column: 0 });
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const go = useCallback((cell: Cell, extend: boolean) => {
    setActive(cell);
    if (!extend) setAnchor(cell);
  }, []);
  const toggle = useCallback((ids: readonly string[], on: boolean) => {
    setChosen((before) => {
      const after = new Set(before);
      for (const id of ids) {
        if (on) after.add(id);
        else after.delete(id);
      }
      return after;
    });
  }, []);
  const clear = useCallback(() => setChosen(new Set()), []);
  return { active, anchor, chosen, go, toggle, clear };
}
