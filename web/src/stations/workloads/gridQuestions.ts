import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useMemo } from "react";
import { useParams } from "react-router";
import { client, unwrap } from "../../api/client";
import { keys } from "../../api/keys";
import { useDesign } from "../../design/context";
import { useRoutes } from "../../design/useRoutes";
import { ALL_COLUMNS } from "./columns";
import type { Order } from "./rows";

/** By workload the names of the routes that take it, those that none takes, and all tags. */
export function useTaken() {
  const { design } = useDesign();
  const answer = useRoutes().data;
  return useMemo(() => {
    if (!answer) return { routesOf: null, untaken: new Set<string>(), tags: [] };
    const names = new Map(design.document.routes.map((route) => [route.id, route.name || route.id]));
    const routesOf = new Map<string, string>();
    for (const [id, { workloads }] of Object.entries(answer.routes)) {
      const name = names.get(id) ?? id;
      for (const one of workloads)
        routesOf.set(one, routesOf.has(one) ? `${routesOf.get(one)}, ${name}` : name);
    }
    return { routesOf, untaken: new Set(answer.taken_by_none), tags: Object.keys(answer.tags).sort() };
  }, [design.document.routes, answer]);
}

/** The ids of all workloads in the order of some columns, by value; undefined for the order of the design. */
export function useOrder(orders: readonly Order[]): readonly string[] | undefined {
  const { design } = useDesign();
  const by = orders
    .map(({ field, down }) => `${down ? "-" : ""}${ALL_COLUMNS.find((one) => one.field === field)?.reads}`)
    .join(",");
  const answer = useQuery({
    queryKey: keys.workloadOrder(design.id, design.revision, by),
    queryFn: () =>
      unwrap(
        client.GET("/api/designs/{id}/workload-order", {
          params: { path: { id: design.id }, query: { by } },
        }),
      ),
    enabled: by !== "",
    placeholderData: keepPreviousData,
  });
  return by === "" ? undefined : answer.data?.ids;
}

/** Goes to the workload that the address names. */
export function useGoTo(
  shown: readonly { id: string }[],
  go: (cell: { row: number; column: number }, extend: boolean) => void,
) {
  const { key } = useParams();
  // biome-ignore lint/correctness/useExhaustiveDependencies: once for each address, not whenever the rows change
  useEffect(() => {
    const row = shown.findIndex((one) => one.id === key);
    if (row >= 0) go({ row, column: 0 }, false);
  }, [key]);
}
