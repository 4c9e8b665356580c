import type { Workload } from "../../api/types";

/** A workload as a flat row of the grid. */
export interface Row {
  id: string;
  name: string;
  site: string;
  size: string;
  count: string;
  change: string;
  pattern: string;
  hot: string;
  growth: string;
  reduction: string;
  changeReduction: string;
  logs: string;
  tags: string;
  from: string;
  until: string;
}

const KNOWN = new WeakMap<Workload, Row>();

/** The row of a workload. A workload that is the same object has the same row, so that thousands stay quick. */
export function toRow(workload: Workload): Row {
  const known = KNOWN.get(workload);
  if (known) return known;
  const row = {
    id: workload.id,
    name: workload.name ?? "",
    site: workload.site,
    size: String(workload.size),
    count: String(workload.count ?? 1),
    change: String(workload.daily_change_percent ?? 0),
    pattern: workload.change_pattern ?? "scattered",
    hot: String(workload.hot_percent ?? 100),
    growth: String(workload.annual_growth_percent ?? 0),
    reduction: String(workload.reduction ?? 1),
    changeReduction: workload.change_reduction == null ? "" : String(workload.change_reduction),
    logs: workload.log_per_day == null ? "" : String(workload.log_per_day),
    tags: (workload.tags ?? []).join(", "),
    from: workload.from ?? "",
    until: workload.until ?? "",
  };
  KNOWN.set(workload, row);
  return row;
}

export interface Order {
  field: keyof Row;
  down: boolean;
}

/** The workloads in an order that the server gives by ids; those that it does not know yet come last. */
export function ordered(
  workloads: readonly Workload[],
  ids: readonly string[] | undefined,
  down: boolean,
): readonly Workload[] {
  if (!ids) return workloads;
  const ranks = new Map(ids.map((id, rank) => [id, rank]));
  const rank = (one: Workload) => ranks.get(one.id) ?? ids.length;
  const sign = down ? -1 : 1;
  return [...workloads].sort((one, other) => sign * (rank(one) - rank(other)));
}

export interface Filter {
  text: string;
  site: string;
  tag: string;
  untaken: boolean;
}

/** The workloads that a filter lets through. */
export function filtered(
  workloads: readonly Workload[],
  filter: Filter,
  untaken: ReadonlySet<string>,
): readonly Workload[] {
  const words = filter.text.toLowerCase().split(/\s+/).filter(Boolean);
  if (words.length === 0 && !filter.site && !filter.tag && !filter.untaken) return workloads;
  return workloads.filter((one) => {
    if (filter.site && one.site !== filter.site) return false;
    if (filter.tag && !(one.tags ?? []).includes(filter.tag)) return false;
    if (filter.untaken && !untaken.has(one.id)) return false;
    const text = `${one.name ?? ""} ${one.id} ${(one.tags ?? []).join(" ")} ${one.site}`.toLowerCase();
    return words.every((word) => text.includes(word));
  });
}
