import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { client, unwrap } from "../../api/client";
import { keys } from "../../api/keys";
import type { By } from "../../api/types";
import { useDesign } from "../../design/context";
import type { Span } from "./useSpan";

/** What a target holds through all days or a stretch of them, told apart. */
export function useSplit(target: string, by: By, span: Span) {
  const { design, on } = useDesign();
  const id = design.id;
  return useQuery({
    queryKey: keys.split(id, design.revision, target, by, on, span),
    queryFn: () =>
      unwrap(
        client.GET("/api/designs/{id}/split", {
          params: { path: { id }, query: { target, by, most: 300, ...(span ?? { on }) } },
        }),
      ),
    placeholderData: keepPreviousData,
  });
}
