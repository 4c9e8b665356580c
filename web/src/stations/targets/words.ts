import type { Target } from "../../api/types";

export const MEDIA: Record<Target["media"], string> = {
  disk: "disk",
  snapshot: "snapshot space",
  object: "object storage",
  tape: "tape library",
};

export const PACKING: Record<NonNullable<Target["packing"]>, string> = {
  separate: "each a file of its own",
  shared: "sharing blocks with each other",
};

export const LOCKS: Record<NonNullable<Target["lock"]>, string> = {
  none: "cannot be locked",
  liftable: "can be locked, liftable by special rights",
  final: "can be locked so that nobody can lift it",
};

export const FILL_ORDER: Record<NonNullable<Target["fill_order"]>, string> = {
  "in-order": "the first with room",
  even: "the one with most room",
  "with-chain": "the one its chain is on",
};

export const CLOSES: Record<NonNullable<Target["batch_closes"]>, string> = {
  run: "after each run",
  day: "every day",
  week: "every week",
  month: "every month",
  full: "only when full",
};
