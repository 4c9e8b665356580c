import type { Workload } from "../../api/types";

/** What a column is of: a field of a workload, or the routes that take it. */
export type Field = keyof Omit<Row, "id"> | "routes";

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
  evenGrowth: string;
  priority: string;
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
    count: textOf(workload.count, "1"),
    change: textOf(workload.daily_change_percent, "0"),
    pattern: workload.change_pattern ?? "scattered",
    hot: textOf(workload.hot_percent, "100"),
    growth: textOf(workload.annual_growth_percent, "0"),
    reduction: textOf(workload.reduction, "1"),
    changeReduction: textOf(workload.change_reduction),
    logs: textOf(workload.log_per_day),
    tags: (workload.tags ?? []).join(", "),
    from: workload.from ?? "",
    until: workload.until ?? "",
    evenGrowth: textOf(workload.annual_growth),
    priority: textOf(workload.priority),
  };
  KNOWN.set(workload, row);
  return row;
}

/** A value as it stands in a cell; where nothing is said, what that means. */
function textOf(value: string | number | null | undefined, unsaid = ""): string {
  return value === null || value === undefined ? unsaid : String(value);
}

/** A column that rows are in the order of, and which way. */
export interface Order {
  field: Field;
  down: boolean;
}

/** The orders after one column is turned: up, down, not at all; alone, or with those that are there already. */
export function turned(orders: readonly Order[], field: Field, isFurther: boolean): Order[] {
  const there = orders.find((one) => one.field === field);
  const rest = isFurther ? orders.filter((one) => one.field !== field) : [];
  if (there?.down) return rest;
  const turn = { field, down: there !== undefined };
  // A column that is turned round keeps its place among several.
  return isFurther && there ? orders.map((one) => (one === there ? turn : one)) : [...rest, turn];
}

/** The workloads in an order that the server gives by ids; those that it does not know yet come last. */
export function ordered(
  workloads: readonly Workload[],
  ids: readonly string[] | undefined,
): readonly Workload[] {
  if (!ids) return workloads;
  const ranks = new Map(ids.map((id, rank) => [id, rank]));
  const rank = (one: Workload) => ranks.get(one.id) ?? ids.length;
  return [...workloads].sort((one, other) => rank(one) - rank(other));
}

export interface Filter {
  text: string;
  site: string;
  tag: string;
  untaken: boolean;
  /** What a column must say, to the letter. */
  values: Partial<Record<Field, string>>;
}

export const ALL: Filter = { text: "", site: "", tag: "", untaken: false, values: {} };

/** The workloads that a filter lets through. */
export function filtered(
  workloads: readonly Workload[],
  filter: Filter,
  untaken: ReadonlySet<string>,
  routesOf: ReadonlyMap<string, string> | null,
): readonly Workload[] {
  const asked = questions(filter, untaken, routesOf);
  return asked.length === 0
    ? workloads
    : workloads.filter((one) => asked.every((letsThrough) => letsThrough(one)));
}

function questions(
  { text, site, tag, untaken: wantsUntaken, values }: Filter,
  untaken: ReadonlySet<string>,
  routesOf: ReadonlyMap<string, string> | null,
): ((workload: Workload) => boolean)[] {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  return [
    ...(words.length > 0 ? [(one: Workload) => words.every((word) => searched(one).includes(word))] : []),
    ...(site ? [(one: Workload) => one.site === site] : []),
    ...(tag ? [(one: Workload) => (one.tags ?? []).includes(tag)] : []),
    ...(wantsUntaken ? [(one: Workload) => untaken.has(one.id)] : []),
    ...Object.entries(values).map(
      ([field, value]) =>
        (one: Workload) =>
          cellText(one, field as Field, routesOf?.get(one.id) ?? null) === value,
    ),
  ];
}

function searched(one: Workload): string {
  return `${one.name ?? ""} ${one.id} ${(one.tags ?? []).join(" ")} ${one.site}`.toLowerCase();
}

/** What a cell says; routes are null while they are not known. */
export function cellText(workload: Workload, field: Field, routes: string | null): string {
  return field === "routes" ? (routes ?? "") : toRow(workload)[field];
}
