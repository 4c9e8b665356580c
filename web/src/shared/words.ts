import type { Kind, Rung } from "../api/types";

export const PICKS: Record<Rung["pick"], string> = { first: "first", last: "last" };

export const EVERY: Record<Rung["every"], string> = {
  hour: "hour",
  day: "day",
  week: "week",
  month: "month",
  quarter: "quarter",
  year: "year",
};

export const WEEKDAY_NAMES: Record<string, string> = {
  MO: "Monday",
  TU: "Tuesday",
  WE: "Wednesday",
  TH: "Thursday",
  FR: "Friday",
  SA: "Saturday",
  SU: "Sunday",
};

export const DAYS_OF_WEEK: Record<string, string> = Object.fromEntries(
  Object.entries(WEEKDAY_NAMES).map(([code, name]) => [code, `from ${name} on`]),
);

export const MONTH_DAYS: Record<string, string> = {
  "1SU": "from the first Sunday on",
  "1SA": "from the first Saturday on",
  "15": "from the 15th on",
  "-1FR": "from the last Friday on",
  "31": "on its last day",
};

export const KIND_NAMES: Record<Kind, string> = {
  full: "full",
  synthetic: "synthetic full",
  differential: "differential",
  incremental: "incremental",
  snapshot: "snapshot",
  log: "log",
};
