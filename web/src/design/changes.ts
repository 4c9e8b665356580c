import type {
  AnyChange,
  DesignDocument,
  DesignOut,
  EditOut,
  Entry,
  EntryOf,
  ListName,
  PartName,
  Settings,
} from "../api/types";
import { WHOLE } from "../api/types";

/** One entry as it should be; null takes it out. A new one goes to its place in the list, else to the end. */
export type Change = {
  [P in PartName]: { part: P; key: string; value: EntryOf[P] | null; place?: number | null };
}[PartName];

/** Texts typed into cells of a workload: the server reads them. Nothing of the design is changed before it has. */
export interface Cells {
  part: "workload cells";
  key: string;
  cells: Record<string, string>;
}

type Made = EditOut["made"][number];

/** What a design says of itself, all of it: the entry is always written as a whole. */
export function settingsOf(document: DesignDocument): Settings {
  const { name, timezone, starts, years, week_starts, currency, correlation } = document;
  return { name, timezone, starts, years, week_starts, currency, correlation };
}

/** What a design has beside its rules, all of it: the entry is always written as a whole. */
export function stockOf(document: DesignDocument): Required<EntryOf["stock"]> {
  return {
    holds: document.holds ?? [],
    opening: document.opening ?? [],
    unknowns: document.unknowns ?? [],
    rehearsals: document.rehearsals ?? [],
  };
}

/** A change as the server takes it, with the version of the entry that it was made on. */
export function toSend(change: Change | Cells, seen: number | null): AnyChange {
  return { place: null, ...change, seen } as AnyChange;
}

/** The entry that a change is of. */
export function entryOf(change: Change | Cells): { part: PartName; key: string } {
  return { part: change.part === "workload cells" ? "workloads" : change.part, key: change.key };
}

/** The design with what was made put in. */
export function withMade(
  design: DesignOut,
  made: Made[],
  revision: number,
  sent: readonly Change[],
): DesignOut {
  let { document, versions } = design;
  for (const one of made) {
    const part = one.part as PartName;
    if (part === "settings" || part === "stock") {
      document = { ...document, ...(one.after as object) };
      versions = { ...versions, [part]: { [WHOLE]: one.version } };
      continue;
    }
    const place = sent.find((change) => change.part === part && change.key === one.key)?.place;
    document = { ...document, [part]: withEntry(document[part], one, place) };
    const known = { ...versions[part] };
    if (one.after) known[one.key] = one.version;
    else delete known[one.key];
    versions = { ...versions, [part]: known };
  }
  return { ...design, revision, document, versions };
}

/** The design with changes put in that are on their way: what is edited next builds on them. Versions stay as they are. */
export function withWanted(design: DesignOut, changes: readonly Change[]): DesignOut {
  const { revision, versions } = design;
  const made = changes.map((one) => ({
    part: one.part,
    key: one.key,
    version: 0,
    place_before: null,
    before: null,
    after: one.value as Made["after"],
  }));
  return { ...withMade(design, made, revision, changes), versions };
}

function withEntry(entries: readonly { id: string }[], made: Made, place: number | null | undefined) {
  const after = made.after as EntryOf[ListName] | null;
  if (entries.some((entry) => entry.id === made.key))
    return entries.flatMap((entry) => (entry.id !== made.key ? [entry] : after ? [after] : []));
  if (!after) return entries;
  const at = place ?? entries.length;
  return [...entries.slice(0, at), after, ...entries.slice(at)];
}

/** The changes that take back what was made. */
export function changesBack(made: readonly Made[]): Change[] {
  return [...made].reverse().map(
    (one) =>
      ({
        part: one.part,
        key: one.key,
        value: one.before as Entry | null,
        place: one.place_before,
      }) as Change,
  );
}

export function nameOf(part: string, key: string): string {
  return `${part}/${key}`;
}
