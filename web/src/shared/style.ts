import type { components } from "../api/generated/schema";
import { VOCABULARY } from "../api/generated/vocabulary";

/** How figures are written for the person who is signed in. */
export type Style = components["schemas"]["Style"];

export const AT_FIRST: Style = { digits: "space", dates: "words" };
const BETWEEN: Record<Style["digits"], string> = VOCABULARY.separators;

let chosen = AT_FIRST;

/** From now on figures are written like this. */
export function chooseStyle(style: Style) {
  chosen = style;
}

/** What stands between thousands. */
export function betweenThousands(): string {
  return BETWEEN[chosen.digits];
}

/** A date that stands by itself, such as `12 June 2027`, or as ISO 8601 has it. */
export function dateText(iso: string): string {
  return chosen.dates === "iso" ? iso : inWords(iso);
}

/** A month by itself, such as `June 2027`, or as ISO 8601 has it, of a day in it. */
export function monthText(iso: string): string {
  return chosen.dates === "iso" ? iso.slice(0, 7) : inWords(iso).replace(/^\d+ /, "");
}

function inWords(iso: string): string {
  const [year, month, day] = iso.split("-").map(Number);
  return `${day} ${VOCABULARY.months[(month ?? 1) - 1]} ${year}`;
}

/** The fields of answers that are words for people. Names that people gave, and values of the document, are not theirs. */
const WORDS = new Set([
  "added",
  "after",
  "asks",
  "before",
  "change",
  "detail",
  "failure",
  "grounds",
  "held_most",
  "message",
  "missing",
  "now_words",
  "reason",
  "refused",
  "restore",
  "sentence",
  "sentences",
  "verdict",
  "way_out",
  "why",
  "words",
  "worst",
]);
const THOUSANDS = /(?<=\d)\u202f(?=\d{3})/g;
const ISO_DATE = /\b\d{4}-\d{2}-\d{2}\b(?!T)/g;
const WORDED_DATE = new RegExp(`\\b(\\d{1,2}) (${VOCABULARY.months.join("|")}) (\\d{4})\\b`, "g");

/** An answer with its sentences as the person likes to read figures. Numbers, dates and names by themselves stay as they are. */
export function restyled<T>(answer: T): T {
  walk(answer);
  return answer;
}

/** A sentence of the server as the person likes to read figures. */
export function restyledText(text: string): string {
  const digits = chosen.digits === "space" ? text : text.replace(THOUSANDS, betweenThousands());
  return chosen.dates === "iso" ? digits.replace(WORDED_DATE, isoOf) : digits.replace(ISO_DATE, inWords);
}

function walk(value: unknown) {
  // A series is a long list of numbers, in which nothing is said.
  if (Array.isArray(value)) value.slice(0, typeof value[0] === "object" ? undefined : 0).forEach(walk);
  else if (isEntry(value)) for (const name of Object.keys(value)) walkField(value, name);
}

function walkField(entry: Record<string, unknown>, name: string) {
  const value = entry[name];
  if (WORDS.has(name)) entry[name] = worded(value);
  if (name !== "document") walk(value);
}

function isEntry(value: unknown): value is Record<string, unknown> {
  return typeof value === "object" && value !== null;
}

function worded(value: unknown): unknown {
  if (typeof value === "string") return restyledText(value);
  if (Array.isArray(value) && typeof value[0] === "string") return value.map(restyledText);
  return value;
}

function isoOf(_: string, day: string, month: string, year: string): string {
  const number = VOCABULARY.months.indexOf(month as (typeof VOCABULARY.months)[number]) + 1;
  return `${year}-${String(number).padStart(2, "0")}-${day.padStart(2, "0")}`;
}
