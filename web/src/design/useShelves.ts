import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { client, unwrap } from "../api/client";
import { useDesign } from "./context";

/** What stands on all shelves at the as-of date, as saved; the last ones stay while newer ones come. */
export function useShelves() {
  const { design, on } = useDesign();
  const id = design.id;
  return useQuery({
    queryKey: ["shelves", id, design.revision, on],
    queryFn: () =>
      unwrap(client.GET("/api/designs/{id}/shelves", { params: { path: { id }, query: { on } } })),
    placeholderData: keepPreviousData,
  });
}
