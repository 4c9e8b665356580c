import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { client, unwrap } from "../api/client";
import { keys } from "../api/keys";
import type { Finding } from "../api/types";
import { useDesign } from "./context";

const NONE: Finding[] = [];

/** The slips that the forecast of the saved design shows. */
export function useFindings(): readonly Finding[] {
  const { design } = useDesign();
  const id = design.id;
  const answer = useQuery({
    queryKey: keys.findings(id, design.revision),
    queryFn: () => unwrap(client.GET("/api/designs/{id}/findings", { params: { path: { id } } })),
    placeholderData: keepPreviousData,
  });
  return answer.data?.findings ?? NONE;
}
