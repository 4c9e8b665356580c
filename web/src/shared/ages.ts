/** The part of the logarithmic axis of age that is in sight, in days. */
export interface Ages {
  youngest: number;
  oldest: number;
}

export const WHOLE_AXIS: Ages = { youngest: 0.25, oldest: 3652 * 3 };

/** Ages in days that are named along the axis. */
export const AGE_TICKS: [number, string][] = [
  [1, "a day"],
  [7, "a week"],
  [30.44, "a month"],
  [365.24, "a year"],
  [3652, "10 years"],
];

/** Where an age stands: the youngest at the right, the oldest at the left. */
export function xOf(ageDays: number, { youngest, oldest }: Ages, width: number): number {
  const share = Math.log(Math.max(youngest, ageDays) / youngest) / Math.log(oldest / youngest);
  return width - 8 - share * (width - 16);
}
