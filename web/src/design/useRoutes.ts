import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { client, unwrap } from "../api/client";
import { keys } from "../api/keys";
import { useDesign } from "./context";

/** All routes in words at the as-of date, as saved: workloads, copies, protection. */
export function useRoutes() {
  const { design, on } = useDesign();
  const id = design.id;
  return useQuery({
    queryKey: keys.routes(id, design.revision, on),
    queryFn: () =>
      unwrap(client.GET("/api/designs/{id}/routes", { params: { path: { id }, query: { on } } })),
    placeholderData: keepPreviousData,
  });
}
