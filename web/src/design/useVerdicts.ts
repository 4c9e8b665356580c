import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { client, unwrap } from "../api/client";
import { keys } from "../api/keys";
import { useDesign } from "./context";

/** Which duties hold as saved, with what became of each since the reference. */
export function useVerdicts() {
  const { design } = useDesign();
  const id = design.id;
  const some = (design.document.duties ?? []).length > 0;
  return useQuery({
    queryKey: keys.verdicts(id, design.revision, design.reference_revision),
    queryFn: () => unwrap(client.GET("/api/designs/{id}/verdicts", { params: { path: { id } } })),
    enabled: some,
    // What an edit brought with it is not asked for once more; nights that are followed later ask for it anew.
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: keepPreviousData,
  });
}
