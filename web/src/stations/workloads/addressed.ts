import { useMirrored, type Words } from "../../shared/useAddressed";
import { ALL_COLUMNS } from "./columns";
import { ALL, type Field, type Filter, type Order } from "./rows";

const UNTAKEN = "untaken";
const IS = "is-";

/** What the address asks the grid to show; columns that there are not are not asked for. */
export function filterOf(search: URLSearchParams): Filter {
  const values = [...search].flatMap(([name, value]) =>
    name.startsWith(IS) && isField(name.slice(IS.length)) ? [[name.slice(IS.length), value]] : [],
  );
  return {
    ...ALL,
    text: search.get("words") ?? "",
    site: search.get("site") ?? "",
    tag: search.get("tag") ?? "",
    untaken: search.get("show") === UNTAKEN,
    values: Object.fromEntries(values),
  };
}

/** The columns that the address orders by: their names with commas between, a minus before one that goes down. */
export function ordersOf(search: URLSearchParams): Order[] {
  const names = (search.get("order") ?? "").split(",");
  return names.flatMap((name) => {
    const down = name.startsWith("-");
    const field = down ? name.slice(1) : name;
    return isField(field) ? [{ field, down }] : [];
  });
}

/** Keeps the address at what the grid shows. */
export function useAddressedGrid(filter: Filter, orders: readonly Order[]) {
  const values = ALL_COLUMNS.map(({ field }): [string, string | null] => [
    IS + field,
    filter.values[field] ?? null,
  ]);
  const words: Words = {
    words: filter.text || null,
    site: filter.site || null,
    tag: filter.tag || null,
    show: filter.untaken ? UNTAKEN : null,
    order: orders.map(({ field, down }) => (down ? `-${field}` : field)).join(",") || null,
    ...Object.fromEntries(values),
  };
  useMirrored(words);
}

function isField(name: string): name is Field {
  return ALL_COLUMNS.some(({ field }) => field === name);
}
