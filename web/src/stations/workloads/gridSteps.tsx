import { Box } from "@mui/material";
import type { Workload } from "../../api/types";
import { COLUMNS } from "./columns";
import { toRow } from "./rows";
import type { Cell } from "./useSelection";
import type { TypedCells } from "./useTypedCells";

/** Why the cell under the hand was refused, where it happens and aloud; how many others there are. */
export function RefusedCells({
  typed,
  workload,
  field,
}: {
  typed: TypedCells;
  workload: Workload | undefined;
  field: string;
}) {
  const here = workload ? typed.of(workload.id, field) : undefined;
  const others = typed.refused - (here?.why ? 1 : 0);
  return (
    <Box
      role="status"
      aria-label="Refused cells"
      sx={{ bgcolor: "background.paper", color: "error.main", px: 1 }}
    >
      {here?.why && `“${here.text}” is not saved: ${here.why}. Mend it, or give it up by Escape. `}
      {others > 0 && `${others} more ${others === 1 ? "cell is" : "cells are"} not saved.`}
    </Box>
  );
}

/** What is not saved in the cells of a workload, by field; the same text while nothing of it changes. */
export function typedIn(workload: Workload, typed: TypedCells): string {
  const cells = COLUMNS.flatMap(({ field }) => {
    const one = typed.of(workload.id, field);
    return one ? [[field, one.text, one.why] as const] : [];
  });
  return cells.length === 0 ? "" : JSON.stringify(cells);
}

export function steps(key: string, page: number): [number, number] | null {
  const by: Record<string, [number, number]> = {
    ArrowUp: [-1, 0],
    ArrowDown: [1, 0],
    ArrowLeft: [0, -1],
    ArrowRight: [0, 1],
    PageUp: [-page, 0],
    PageDown: [page, 0],
    Home: [0, -COLUMNS.length],
    End: [0, COLUMNS.length],
  };
  return by[key] ?? null;
}

/** Which columns of a row are in the block, and which is under the hand: as one text, so that rows need not be drawn anew. */
export function marks(row: number, active: Cell, anchor: Cell): string {
  const inside = row >= Math.min(active.row, anchor.row) && row <= Math.max(active.row, anchor.row);
  if (!inside) return "";
  const first = Math.min(active.column, anchor.column);
  const last = Math.max(active.column, anchor.column);
  return `${first}:${last}:${row === active.row ? active.column : -1}`;
}

export function span(workloads: readonly Workload[], active: Cell, anchor: Cell): string[] {
  const first = Math.min(active.row, anchor.row);
  const last = Math.max(active.row, anchor.row);
  return workloads.slice(first, last + 1).map((one) => one.id);
}

export function blockText(workloads: readonly Workload[], active: Cell, anchor: Cell): string {
  const columns = COLUMNS.slice(
    Math.min(active.column, anchor.column),
    Math.max(active.column, anchor.column) + 1,
  );
  const rows = workloads.slice(Math.min(active.row, anchor.row), Math.max(active.row, anchor.row) + 1);
  return rows.map((one) => columns.map((column) => toRow(one)[column.field]).join("\t")).join("\n");
}
