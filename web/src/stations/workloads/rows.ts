import type { Workload } from "../../api/types";

/** A workload as a flat row of the grid. */
export interface Row {
  id: string;
  name: string;
  site: string;
  size: string;
  count: number;
  change: number;
  pattern: Workload["change_pattern"];
  hot: number;
  growth: number;
  reduction: number;
  logs: string;
  tags: string;
  from: string;
  until: string;
}

export function toRow(workload: Workload): Row {
  return {
    id: workload.id,
    name: workload.name ?? "",
    site: workload.site,
    size: String(workload.size),
    count: workload.count ?? 1,
    change: workload.daily_change_percent ?? 0,
    pattern: workload.change_pattern ?? "scattered",
    hot: workload.hot_percent ?? 100,
    growth: workload.annual_growth_percent ?? 0,
    reduction: workload.reduction ?? 1,
    logs: workload.log_per_day == null ? "" : String(workload.log_per_day),
    tags: (workload.tags ?? []).join(", "),
    from: workload.from ?? "",
    until: workload.until ?? "",
  };
}

/** The workload with what the row now says; what a row does not show stays. */
export function fromRow(row: Row, before: Workload): Workload {
  return {
    ...before,
    name: row.name,
    site: row.site,
    size: typedSize(row.size),
    count: row.count,
    daily_change_percent: row.change,
    change_pattern: row.pattern,
    hot_percent: row.hot,
    annual_growth_percent: row.growth,
    reduction: row.reduction,
    log_per_day: row.logs.trim() === "" ? null : typedSize(row.logs),
    tags: row.tags
      .split(",")
      .map((tag) => tag.trim())
      .filter((tag) => tag !== ""),
    from: row.from.trim() || null,
    until: row.until.trim() || null,
  };
}

/** A bare number is a number of bytes; everything else is the server's to read. */
function typedSize(text: string): string | number {
  const trimmed = text.trim();
  return /^\d+$/.test(trimmed) ? Number(trimmed) : trimmed;
}
