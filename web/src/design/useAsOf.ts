import { useCallback, useState } from "react";
import type { Days } from "../api/types";

const KEY = "rested-shelf-as-of";

/** The as-of date as a place among the days of the design; the browser keeps it between visits. */
export function useAsOf(days: Days): { place: number; setPlace: (place: number) => void } {
  const last = days.dates.length - 1;
  const [place, setRaw] = useState(() => {
    const kept = days.dates.indexOf(localStorage.getItem(KEY) ?? "");
    return kept >= 0 ? kept : Math.min(730, last);
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

/** The place so many months away, on the same day of the month or the month's last. */
export function monthsAway(days: Days, place: number, months: number): number {
  const begins = days.month_begins;
  let month = begins.findLastIndex((begin) => begin <= place);
  const dayOfMonth = place - (begins[month] ?? 0);
  month = Math.max(0, Math.min(begins.length - 1, month + months));
  const begin = begins[month] ?? 0;
  const end = (begins[month + 1] ?? days.dates.length) - 1;
  return Math.min(begin + dayOfMonth, end);
}
