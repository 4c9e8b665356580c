import { useQuery } from "@tanstack/react-query";
import { client, unwrap } from "../api/client";
import { keys } from "../api/keys";

/** Ready-made ladders and targets; undefined until they are there. */
export function useStartingPoints() {
  return useQuery({
    queryKey: keys.startingPoints,
    queryFn: () => unwrap(client.GET("/api/starting-points")),
    staleTime: Number.POSITIVE_INFINITY,
  }).data;
}
