import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useMemo } from "react";
import { client, unwrap } from "../api/client";
import type { components } from "../api/generated/schema";
import { keys } from "../api/keys";
import { AT_FIRST } from "../shared/style";

export type Preferences = components["schemas"]["PreferencesOut"];

const NOTHING_CHOSEN: Preferences = { grid: [], style: AT_FIRST };
const KEPT_AFTER_MS = 600;
let timer: number | undefined;

/** What the person has chosen, kept with the person, so that it is the same on every machine. */
export function usePreferences() {
  const queries = useQueryClient();
  const kept = useQuery({
    queryKey: keys.preferences,
    queryFn: () => unwrap(client.GET("/api/preferences")),
    staleTime: Number.POSITIVE_INFINITY,
  }).data;
  return useMemo(() => {
    /** What is chosen by now: keys may come quicker than the page is drawn. */
    const now = () => queries.getQueryData<Preferences>(keys.preferences) ?? NOTHING_CHOSEN;
    /** Shows it at once and keeps it a moment later: a border that is drawn to its place moves many times. */
    const put = (change: Partial<Preferences>) => {
      queries.setQueryData(keys.preferences, { ...now(), ...change });
      window.clearTimeout(timer);
      timer = window.setTimeout(() => void client.PUT("/api/preferences", { body: now() }), KEPT_AFTER_MS);
    };
    return { kept: kept ?? NOTHING_CHOSEN, now, put };
  }, [kept, queries]);
}
