/** The part of the logarithmic axis of age that is in sight, in days. */
export interface Ages {
  youngest: number;
  oldest: number;
}

export const WHOLE_AXIS: Ages = { youngest: 0.25, oldest: 3652 * 3 };

/** Where an age stands: the youngest at the right, the oldest at the left. */
export function xOf(ageDays: number, { youngest, oldest }: Ages, width: number): number {
  const share = Math.log(Math.max(youngest, ageDays) / youngest) / Math.log(oldest / youngest);
  return width - 8 - share * (width - 16);
}
