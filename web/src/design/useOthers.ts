import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { client, unwrap } from "../api/client";
import { keys } from "../api/keys";
import type { DesignOut } from "../api/types";

const EVERY_MS = 4000;

/**
 * Looks now and then whether somebody else has changed the design, and fetches it anew: but not under the hand of a
 * person who is typing, whose edit would then look as if it had been made on what they have not seen. Returns what the
 * other person did, in words.
 */
export function useOthers(design: DesignOut, username: string): string {
  const cache = useQueryClient();
  const [words, setWords] = useState("");
  const { id, revision } = design;
  const newest = useQuery({
    queryKey: keys.revision(id),
    queryFn: () => unwrap(client.GET("/api/designs/{id}/revision", { params: { path: { id } } })),
    refetchInterval: EVERY_MS,
  });
  const { data, dataUpdatedAt } = newest;
  // biome-ignore lint/correctness/useExhaustiveDependencies: every answer is looked at, also one that says the same again
  useEffect(() => {
    if (!data || data.revision <= revision) return;
    if (data.who !== username) setWords(`${data.who || "Somebody"}: ${data.what}`);
    if (!isTyping()) void cache.invalidateQueries({ queryKey: keys.design(id) });
  }, [data, dataUpdatedAt, revision, username, cache, id]);
  return words;
}

function isTyping(): boolean {
  const active = document.activeElement;
  return active?.closest("main") != null && active.matches("input, textarea, [role=slider], [role=combobox]");
}
