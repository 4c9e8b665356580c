import { useCallback, useState } from "react";
import type { Days } from "../api/types";

const KEY = "rested-shelf-as-of";

/** The as-of date as a place among the days of the design: the one that the address names, else the one that the browser
 * kept of the last visit. */
export function useAsOf(days: Days): { place: number; setPlace: (place: number) => void } {
  const last = days.dates.length - 1;
  const [place, setRaw] = useState(() => {
    const named = days.dates.indexOf(new URLSearchParams(window.location.search).get("on") ?? "");
    const kept = days.dates.indexOf(localStorage.getItem(KEY) ?? "");
    return [named, kept].find((one) => one >= 0) ?? Math.min(730, last);
  });
  const setPlace = useCallback(
    (wanted: number) => {
      const inside = Math.max(0, Math.min(last, Math.round(wanted)));
      setRaw(inside);
      localStorage.setItem(KEY, days.dates[inside] ?? "");
    },
    [days, last],
  );
  return { place: Math.min(place, last), setPlace };
}

/** The place so many months away, on the same day of the month or the month's last: read off the dates of the design. */
export function monthsAway(days: Days, place: number, months: number, day = dayOfMonth(days, place)): number {
  const begins = days.month_begins;
  const month = begins.findLastIndex((begin) => begin <= place);
  const wanted = Math.max(0, Math.min(begins.length - 1, month + months));
  const begin = begins[wanted] ?? 0;
  const end = (begins[wanted + 1] ?? days.dates.length) - 1;
  for (let at = end; at > begin; at--) if ((days.dates[at]?.slice(8) ?? "") <= day) return at;
  return begin;
}

/** The day of the month of a place, as its date writes it. */
export function dayOfMonth(days: Days, place: number): string {
  return days.dates[place]?.slice(8) ?? "01";
}
