import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { client, unwrap } from "../api/client";
import { keys } from "../api/keys";
import { useDesign } from "./context";

/** What the month of the as-of date costs on every target as saved, with the change since the reference. It follows the
 * figures, which never wait for it. */
export function useMonthCost() {
  const { design, on } = useDesign();
  const id = design.id;
  return useQuery({
    queryKey: keys.monthCost(id, design.revision, design.reference_revision, on),
    queryFn: () =>
      unwrap(client.GET("/api/designs/{id}/cost/month", { params: { path: { id }, query: { on } } })),
    placeholderData: keepPreviousData,
  }).data;
}
