import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { client, unwrap } from "../../api/client";
import { keys } from "../../api/keys";
import { useDesign } from "../../design/context";

/** Points and bytes of all targets through time, and of the reference. */
export function useSeries() {
  const { design } = useDesign();
  const id = design.id;
  return useQuery({
    queryKey: keys.series(id, design.revision),
    queryFn: () =>
      unwrap(client.GET("/api/designs/{id}/series", { params: { path: { id }, query: { most: 300 } } })),
    placeholderData: keepPreviousData,
  });
}
