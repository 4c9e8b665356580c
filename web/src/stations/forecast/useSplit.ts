import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { client, unwrap } from "../../api/client";
import { keys } from "../../api/keys";
import type { By, SplitSeries } from "../../api/types";
import { type Names, useDesign, useNames } from "../../design/context";
import type { Span } from "./useSpan";

/** What a target holds through all days or a stretch of them, told apart. */
export function useSplit(target: string, by: By, span: Span) {
  const { design, on } = useDesign();
  const id = design.id;
  const names = useNames();
  return useQuery({
    queryKey: keys.split(id, design.revision, target, by, on, span),
    queryFn: () =>
      unwrap(
        client.GET("/api/designs/{id}/split", {
          params: { path: { id }, query: { target, by, most: 300, ...(span ?? { on }) } },
        }),
      ),
    placeholderData: keepPreviousData,
    select: (answer) => ({ ...answer, split: named(answer.split, by, names) }),
  });
}

/** The parts as people call them. Those of rungs, kinds and states have no other names. */
function named(split: SplitSeries, by: By, names: Names): SplitSeries {
  const nameOf = (id: string) => {
    if (by === "workload") return names.workload(id);
    if (by === "route") return names.route(id);
    const [route = "", copy] = id.split(" / ");
    return by === "copy" && copy !== undefined ? names.copy(route, copy) : id;
  };
  return { ...split, parts: split.parts.map((part) => ({ ...part, name: nameOf(part.name) })) };
}
