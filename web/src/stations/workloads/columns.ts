import type { Row } from "./rows";

/** A column of the grid: what it shows of a row, and how it is edited. */
export interface Column {
  field: keyof Row;
  name: string;
  width: number;
  kind: "text" | "number" | "choice";
  right?: true;
  /** The field of a table that a pasted block fills. */
  reads: string;
}

export const COLUMNS: readonly Column[] = [
  { field: "name", name: "Name", width: 166, kind: "text", reads: "name" },
  { field: "site", name: "Site", width: 96, kind: "choice", reads: "site" },
  { field: "size", name: "Size", width: 70, kind: "text", right: true, reads: "size" },
  { field: "count", name: "Count", width: 50, kind: "number", reads: "count" },
  { field: "change", name: "Change %/day", width: 66, kind: "number", reads: "daily_change_percent" },
  { field: "pattern", name: "Changes", width: 78, kind: "choice", reads: "change_pattern" },
  { field: "growth", name: "Growth %/yr", width: 60, kind: "number", reads: "annual_growth_percent" },
  { field: "reduction", name: "Reduction", width: 76, kind: "number", reads: "reduction" },
  { field: "tags", name: "Tags", width: 90, kind: "text", reads: "tags" },
  { field: "hot", name: "Changing part %", width: 84, kind: "number", reads: "hot_percent" },
  {
    field: "changeReduction",
    name: "Reduction of changes",
    width: 90,
    kind: "text",
    reads: "change_reduction",
  },
  { field: "logs", name: "Log per day", width: 80, kind: "text", right: true, reads: "log_per_day" },
  { field: "from", name: "From", width: 100, kind: "text", reads: "from" },
  { field: "until", name: "Until", width: 100, kind: "text", reads: "until" },
];

export const ROW_HEIGHT = 28;
export const CHECK_WIDTH = 34;
export const ROUTES_WIDTH = 86;
/** The column after which it is said which routes take a workload. */
export const ROUTES_AFTER: keyof Row = "tags";
export const GRID_WIDTH = CHECK_WIDTH + ROUTES_WIDTH + COLUMNS.reduce((sum, column) => sum + column.width, 0);

/** Whether a column is set to the right: figures line up there. */
export function isRight(column: Column): boolean {
  return column.kind === "number" || column.right === true;
}

/** How wide a column is; names take what room there is to spare. */
export function flexOf(column: Column): string {
  return `${column.field === "name" ? 1 : 0} 0 ${column.width}px`;
}
