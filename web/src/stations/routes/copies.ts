import type { Copy, RoutePart } from "../../api/types";
import type { Made } from "../../design/editing";

/** The route with another copy in the place of one. */
export function withCopy(route: RoutePart, copy: Copy): RoutePart {
  return { ...route, copies: route.copies.map((one) => (one.id === copy.id ? copy : one)) };
}

/** Where the copy is shown that was made last, of the route that it was made in. */
export function pathOfNewCopy(made: readonly Made[]): string {
  const route = made.find((one) => one.part === "routes");
  const copies = (route?.after as RoutePart | null)?.copies ?? [];
  return `/routes/${encodeURIComponent(route?.key ?? "")}/${encodeURIComponent(copies.at(-1)?.id ?? "")}`;
}
