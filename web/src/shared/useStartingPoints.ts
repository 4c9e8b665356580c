import { useQuery } from "@tanstack/react-query";
import { client, unwrap } from "../api/client";

/** Ready-made ladders and targets; undefined until they are there. */
export function useStartingPoints() {
  return useQuery({
    queryKey: ["starting-points"],
    queryFn: () => unwrap(client.GET("/api/starting-points")),
    staleTime: Number.POSITIVE_INFINITY,
  }).data;
}
