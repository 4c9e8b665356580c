import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { client, unwrap } from "../api/client";
import { keys } from "../api/keys";
import { useDesign } from "./context";

/** What stands on the shelves at the as-of date, as saved: on all, or on those that a ladder rules. The last ones stay
 * while newer ones come. */
export function useShelves(ladder?: string) {
  const { design, on } = useDesign();
  const id = design.id;
  return useQuery({
    queryKey: keys.shelves(id, design.revision, on, ladder ?? null),
    queryFn: () =>
      unwrap(
        client.GET("/api/designs/{id}/shelves", {
          params: { path: { id }, query: { on, ...(ladder === undefined ? {} : { ladder }) } },
        }),
      ),
    placeholderData: keepPreviousData,
  });
}
