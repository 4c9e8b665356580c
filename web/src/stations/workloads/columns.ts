import type { Field } from "./rows";

/** A column of the grid: what it shows of a row, and how it is edited. What is `said` cannot be. */
export interface Column {
  field: Field;
  name: string;
  width: number;
  kind: "text" | "number" | "choice" | "said";
  right?: true;
  /** The field of a table that a pasted block fills; null for what is only said. */
  reads: string | null;
  /** Whether it is out of sight until somebody asks for it. */
  hidden?: true;
}

/** All columns there are, as they stand at first. */
export const ALL_COLUMNS: readonly Column[] = [
  { field: "name", name: "Name", width: 166, kind: "text", reads: "name" },
  { field: "site", name: "Site", width: 96, kind: "choice", reads: "site" },
  { field: "size", name: "Size", width: 70, kind: "text", right: true, reads: "size" },
  { field: "count", name: "Count", width: 50, kind: "number", reads: "count" },
  { field: "change", name: "Change %/day", width: 66, kind: "number", reads: "daily_change_percent" },
  { field: "pattern", name: "Changes", width: 78, kind: "choice", reads: "change_pattern" },
  { field: "growth", name: "Growth %/yr", width: 60, kind: "number", reads: "annual_growth_percent" },
  { field: "reduction", name: "Reduction", width: 76, kind: "number", reads: "reduction" },
  { field: "tags", name: "Tags", width: 90, kind: "text", reads: "tags" },
  { field: "routes", name: "Routes", width: 86, kind: "said", reads: null },
  { field: "hot", name: "Changing part %", width: 84, kind: "number", reads: "hot_percent" },
  {
    field: "changeReduction",
    name: "Reduction of changes",
    width: 90,
    kind: "text",
    right: true,
    reads: "change_reduction",
  },
  { field: "logs", name: "Log per day", width: 80, kind: "text", right: true, reads: "log_per_day" },
  { field: "from", name: "From", width: 100, kind: "text", reads: "from" },
  { field: "until", name: "Until", width: 100, kind: "text", reads: "until" },
  {
    field: "evenGrowth",
    name: "Growth a year",
    width: 84,
    kind: "text",
    right: true,
    reads: "annual_growth",
    hidden: true,
  },
  {
    field: "priority",
    name: "Priority",
    width: 62,
    kind: "text",
    right: true,
    reads: "priority",
    hidden: true,
  },
];

/** What can be typed into, whether or not it is in sight. */
export const EDITED = ALL_COLUMNS.filter((column) => column.reads !== null);

export const ROW_HEIGHT = 28;
export const HEAD_HEIGHT = 44;
export const CHECK_WIDTH = 34;

/** How wide all columns are together, with the one that chooses. */
export function widthOf(columns: readonly Column[]): number {
  return CHECK_WIDTH + columns.reduce((sum, column) => sum + column.width, 0);
}

/** Whether a column is set to the right: figures line up there. */
export function isRight(column: Column): boolean {
  return column.kind === "number" || column.right === true;
}

/** How wide a column is; names and routes take what room there is to spare. */
export function flexOf(column: Column): string {
  const grows = column.field === "name" || column.field === "routes";
  return `${grows ? 1 : 0} 0 ${column.width}px`;
}
