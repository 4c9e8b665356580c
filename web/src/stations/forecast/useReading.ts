import type { ScaleLinear } from "d3-scale";
import { type KeyboardEvent, useState } from "react";

interface Pointed {
  clientX: number;
  currentTarget: Element;
}

/**
 * Which of a chart's days is read, by the pointer or by the arrow keys; `at` is its place among them, that of the as-of
 * date while nothing is read.
 */
export function useReading(places: readonly number[], asOf: number, x: ScaleLinear<number, number>) {
  const [read, setRead] = useState<number | null>(null);
  const nearest = (day: number) => {
    const after = places.findIndex((one) => one >= day);
    return after < 0 ? places.length - 1 : after;
  };
  const at = read ?? nearest(asOf);
  const dayUnder = (event: Pointed) =>
    Math.round(x.invert(event.clientX - event.currentTarget.getBoundingClientRect().left));
  const press = (event: KeyboardEvent) => {
    const by = { ArrowLeft: -1, ArrowRight: 1, PageUp: -20, PageDown: 20 }[event.key];
    if (!by) return;
    event.preventDefault();
    setRead(Math.max(0, Math.min(places.length - 1, at + by)));
  };
  return {
    at,
    /** The day that is read, and a quarter of the days in sight. */
    day: places[at] ?? 0,
    reach: Math.max(2, Math.round(((places.at(-1) ?? 0) - (places[0] ?? 0)) / 4)),
    isReading: read !== null,
    dayUnder,
    press,
    follow: (event: Pointed) => setRead(nearest(dayUnder(event))),
    leave: () => setRead(null),
  };
}
