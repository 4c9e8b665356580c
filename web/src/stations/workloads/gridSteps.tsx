import { Box } from "@mui/material";
import type { Workload } from "../../api/types";
import type { Cells } from "../../design/changes";
import { type Column, EDITED } from "./columns";
import { cellText } from "./rows";
import type { Cell } from "./useSelection";
import type { TypedCells } from "./useTypedCells";

interface RefusedProps {
  typed: TypedCells;
  workload: Workload | undefined;
  field: string;
  further: string;
}

/** Why the cell under the hand was refused, else the newest that was, where it happens and aloud; how many others there are. */
export function RefusedCells({ typed, workload, field, further }: RefusedProps) {
  const here = workload ? typed.of(workload.id, field) : undefined;
  const told = here?.why ? { ...here, of: "" } : typed.newestRefused;
  const others = typed.refused - (told ? 1 : 0);
  return (
    <Box
      role="status"
      aria-label="Refused cells"
      sx={{ bgcolor: "background.paper", color: "error.main", px: 1 }}
    >
      {told && `${told.of}“${told.text}” is not saved: ${told.why}. Mend it, or give it up by Escape. `}
      {others > 0 && `${others} more ${others === 1 ? "cell is" : "cells are"} not saved. `}
      {further}
    </Box>
  );
}

/** What is not saved in the cells of a workload, by field; the same text while nothing of it changes. */
export function typedIn(workload: Workload, typed: TypedCells): string {
  const cells = EDITED.flatMap(({ field }) => {
    const one = typed.of(workload.id, field);
    return one ? [[field, one.text, one.why] as const] : [];
  });
  return cells.length === 0 ? "" : JSON.stringify(cells);
}

/** The cell that a key goes to from one; with Ctrl to the first or the last row. */
export function stepped(
  { key, ctrlKey, metaKey }: { key: string; ctrlKey: boolean; metaKey: boolean },
  from: Cell,
  page: number,
  columns: number,
): Cell | null {
  if (ctrlKey || metaKey) {
    const row = { Home: 0, End: Number.MAX_SAFE_INTEGER }[key];
    return row === undefined ? null : { row, column: from.column };
  }
  const by: Record<string, [number, number]> = {
    ArrowUp: [-1, 0],
    ArrowDown: [1, 0],
    ArrowLeft: [0, -1],
    ArrowRight: [0, 1],
    PageUp: [-page, 0],
    PageDown: [page, 0],
    Home: [0, -columns],
    End: [0, columns],
  };
  const step = by[key];
  return step ? { row: from.row + step[0], column: from.column + step[1] } : null;
}

/** A block of cells: its first and last row and column. */
export interface Block {
  top: number;
  bottom: number;
  left: number;
  right: number;
}

/** The block between two corners. */
export function blockOf(active: Cell, anchor: Cell): Block {
  return {
    top: Math.min(active.row, anchor.row),
    bottom: Math.max(active.row, anchor.row),
    left: Math.min(active.column, anchor.column),
    right: Math.max(active.column, anchor.column),
  };
}

/** Which columns of a row are in the block, and which is under the hand: as one text, so that rows need not be drawn anew. */
export function marks(row: number, active: Cell, anchor: Cell): string {
  const { top, bottom, left, right } = blockOf(active, anchor);
  if (row < top || row > bottom) return "";
  return `${left}:${right}:${row === active.row ? active.column : -1}`;
}

/** The ids of the workloads in a block. */
export function span(workloads: readonly Workload[], { top, bottom }: Block): string[] {
  return workloads.slice(top, bottom + 1).map((one) => one.id);
}

/** A block as tabs and lines. */
export function blockText(
  workloads: readonly Workload[],
  columns: readonly Column[],
  { top, bottom, left, right }: Block,
  routesOf: ReadonlyMap<string, string> | null,
): string {
  const inBlock = columns.slice(left, right + 1);
  return workloads
    .slice(top, bottom + 1)
    .map((one) =>
      inBlock.map((column) => cellText(one, column.field, routesOf?.get(one.id) ?? null)).join("\t"),
    )
    .join("\n");
}

/** What filling a block down writes: the cells of its first row into all below; of one row alone, those above it. */
export function filledDown(
  workloads: readonly Workload[],
  columns: readonly Column[],
  { top, bottom, left, right }: Block,
): Cells[] {
  const from = top === bottom ? top - 1 : top;
  const source = workloads[from];
  if (!source) return [];
  const cells = Object.fromEntries(
    columns
      .slice(left, right + 1)
      .flatMap(({ field, reads }) => (reads ? [[reads, cellText(source, field, null)]] : [])),
  );
  if (Object.keys(cells).length === 0) return [];
  return workloads.slice(from + 1, bottom + 1).map((one) => ({ part: "workload cells", key: one.id, cells }));
}
