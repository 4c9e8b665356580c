import { VOCABULARY } from "../api/generated/vocabulary";

/** The part of the logarithmic axis of age that is in sight, in days. */
export interface Ages {
  youngest: number;
  oldest: number;
}

export const WHOLE_AXIS: Ages = {
  youngest: VOCABULARY.shelf.youngest_days,
  oldest: VOCABULARY.shelf.oldest_days,
};

/** Ages that are named along the axis. */
export const AGE_TICKS: readonly { days: number; name: string }[] = VOCABULARY.shelf.ticks;

/** Where an age stands: the youngest at the right, the oldest at the left. */
export function xOf(ageDays: number, { youngest, oldest }: Ages, width: number): number {
  const share = Math.log(Math.max(youngest, ageDays) / youngest) / Math.log(oldest / youngest);
  return width - 8 - share * (width - 16);
}
