import { VOCABULARY } from "../api/generated/vocabulary";

export type Unit = keyof typeof VOCABULARY.durations;

const UNITS = VOCABULARY.durations;

/** The names of units, by unit. */
export const UNIT_NAMES = Object.fromEntries(
  Object.entries(UNITS).map(([unit, { name }]) => [unit, name]),
) as Record<Unit, string>;

/** Whether a word is a unit that durations are typed in. */
export const isUnit = (word: string): word is Unit => word in UNITS;

/** A count of a unit, as the document writes it. */
export function durationText(count: number, unit: Unit): string {
  return `${UNITS[unit].before}${count}${UNITS[unit].after}`;
}

/** The count and the unit of a duration that is written in one unit, null for one that mixes several. */
export function partsOf(duration: string): { count: number; unit: Unit } | null {
  if (duration === VOCABULARY.no_time) return { count: 0, unit: "hour" };
  for (const unit of Object.keys(UNITS) as Unit[]) {
    const { before, after } = UNITS[unit];
    const count = duration.slice(before.length, duration.length - after.length);
    if (duration === `${before}${count}${after}` && /^\d+$/.test(count))
      return { count: Number(count), unit };
  }
  return null;
}

/** A duration of one unit as it is read; null for one that mixes units. */
export function wordsOfOne(duration: string): string | null {
  const parts = partsOf(duration);
  return parts ? `${parts.count} ${parts.count === 1 ? parts.unit : UNIT_NAMES[parts.unit]}` : null;
}

/** A duration for a line about an edit: in words where it is of one unit, else as it is written. */
export const durationWords = (duration: string) => wordsOfOne(duration) ?? duration;
