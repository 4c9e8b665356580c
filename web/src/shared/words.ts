import { VOCABULARY } from "../api/generated/vocabulary";
import type { Kind, Rung } from "../api/types";

export const PICKS: Record<Rung["pick"], string> = VOCABULARY.picks;

export const EVERY: Record<Rung["every"], string> = VOCABULARY.periods;

export const WEEKDAY_NAMES: Record<string, string> = VOCABULARY.weekdays;

/** From which day of a week, or of a month, a rung picks. */
export const DAYS_OF_PERIOD: Partial<Record<Rung["every"], Record<string, string>>> = {
  week: VOCABULARY.days_of_week,
  month: VOCABULARY.days_of_month,
};

export const KIND_NAMES: Record<Kind, string> = VOCABULARY.kinds;

/** What a field holds when it is first asked for. */
export const FIRST = VOCABULARY.first;
