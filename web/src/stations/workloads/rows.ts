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

/** The workload with one cell of its row typed anew; what is no value is for the server to refuse by name. */
export function withCell(workload: Workload, field: keyof Row, text: string): Workload {
  const typed = text.trim();
  const value = CELLS[field]?.(typed);
  return value === undefined ? workload : { ...workload, ...value };
}

const CELLS: Partial<Record<keyof Row, (text: string) => Partial<Workload>>> = {
  name: (name) => ({ name }),
  site: (site) => ({ site }),
  size: (text) => ({ size: typedSize(text) }),
  count: (text) => ({ count: typedNumber(text) }),
  change: (text) => ({ daily_change_percent: typedNumber(text) }),
  pattern: (text) => ({ change_pattern: text as NonNullable<Workload["change_pattern"]> }),
  hot: (text) => ({ hot_percent: typedNumber(text) }),
  growth: (text) => ({ annual_growth_percent: typedNumber(text) }),
  reduction: (text) => ({ reduction: typedNumber(text) }),
  changeReduction: (text) => ({ change_reduction: text === "" ? null : typedNumber(text) }),
  logs: (text) => ({ log_per_day: text === "" ? null : typedSize(text) }),
  tags: (text) => ({ tags: text.split(/[,\s]+/).filter((tag) => tag !== "") }),
  from: (text) => ({ from: text || null }),
  until: (text) => ({ until: text || null }),
};

/** A bare number is a number of bytes; everything else is the server's to read. */
function typedSize(text: string): string | number {
  return /^\d+$/.test(text) ? Number(text) : text;
}

/** A number, or the text as it is, so that the refusal names what was typed. */
function typedNumber(text: string): number {
  const number = Number(text.replace(/%$/, "").trim().replace(",", "."));
  return text !== "" && Number.isFinite(number) ? number : (text as unknown as number);
}

const COLLATOR = new Intl.Collator("en", { numeric: true, sensitivity: "base" });

export interface Order {
  field: keyof Row;
  down: boolean;
}

/** The workloads in the order of one column; numbers in texts by their value. */
export function ordered(workloads: readonly Workload[], order: Order | null): readonly Workload[] {
  if (!order) return workloads;
  const sign = order.down ? -1 : 1;
  return [...workloads].sort(
    (one, other) => sign * COLLATOR.compare(toRow(one)[order.field], toRow(other)[order.field]),
  );
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
