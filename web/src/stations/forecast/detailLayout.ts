import type { Band, DetailCharts, DetailSeries, Series } from "../../api/types";
import type { Span } from "./useSpan";

export const LEFT = 62;

export const RIGHT = 8;

export const BYTES = { top: 10, bottom: 158 };

export const BELOW = { top: 174, bottom: 216 };

export const HEIGHT = 234;

/** What stands below the chart never moves what is below it. */
export const TWO_LINES = { minHeight: "2.9em", lineHeight: 1.4 };

/** What the strip below the bytes shows. */
export type Strip = "points" | "moved" | "logical";

export interface Props {
  series: DetailSeries;
  charts: DetailCharts;
  reference: Series | undefined;
  band: Band | undefined;
  fullOn: string | null;
  /** What stays from a day on if every rule were cut then: the place of the day, and bytes of each day from there. */
  held: { first: number; stored_bytes: number[]; locked_bytes: number[] } | undefined;
  strip: Strip;
  onSpan: (span: Span) => void;
}
