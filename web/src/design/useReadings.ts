import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { client, unwrap } from "../api/client";
import { keys } from "../api/keys";
import { useDesign } from "./context";

/** All rules and lines in words, for the revision and date that are shown; the last ones stay while newer ones come. */
export function useReadings() {
  const { design, on } = useDesign();
  const id = design.id;
  return useQuery({
    queryKey: keys.readings(id, design.revision, on),
    queryFn: () =>
      unwrap(client.GET("/api/designs/{id}/readings", { params: { path: { id }, query: { on } } })),
    placeholderData: keepPreviousData,
  });
}
