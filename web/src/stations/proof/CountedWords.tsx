import type { Counted } from "../../api/types";
import { useDesign } from "../../design/context";
import { Choice } from "../../shared/Choice";
import { TimeWord } from "../../shared/TimeWord";

interface Props {
  label: string;
  counted: Counted | null;
  onKeep: (counted: Counted | null, what: string) => Promise<boolean>;
}

const LOCKED: Record<string, string> = {
  "": "locked or not",
  any: "locked",
  final: "locked so that nobody can lift it",
};

/** Which points count: where they lie, and whether they are locked. */
export function CountedWords({ label, counted, onKeep }: Props) {
  const { design, canEdit } = useDesign();
  const { targets } = design.document;
  const now = (counted ?? {}) as Counted;
  const put = (change: Partial<Counted>, what: string) => onKeep({ ...now, ...change } as Counted, what);
  const where = placeOf(now);
  const places: Record<string, string> = {
    any: "anywhere",
    off: "off site",
    ...(where === "named" ? { named: "in the places named in the document" } : {}),
    ...Object.fromEntries(targets.map((one) => [`on ${one.id}`, `on ${one.name || one.id}`])),
    ...Object.fromEntries(targets.map((one) => [`not ${one.id}`, `anywhere but on ${one.name || one.id}`])),
  };
  return (
    <>
      ; what counts lies
      <Choice
        label={`Where points count for ${label}`}
        value={where}
        options={places}
        disabled={!canEdit}
        onChange={(word) =>
          void put(
            {
              off_site: word === "off",
              targets: word.startsWith("on ") ? [word.slice("on ".length)] : null,
              not_targets: word.startsWith("not ") ? [word.slice("not ".length)] : null,
              sites: null,
            },
            `counts ${places[word]}`,
          )
        }
      />
      and is
      <Choice
        label={`Locks that count for ${label}`}
        value={now.locked ?? ""}
        options={LOCKED}
        disabled={!canEdit}
        onChange={(word) =>
          void put(
            { locked: (word || null) as Counted["locked"], ...(word ? {} : { locked_for: null }) },
            `counts ${LOCKED[word]}`,
          )
        }
      />
      {now.locked && (
        <>
          for at least
          <TimeWord
            label={`Time of locks that count for ${label}`}
            value={now.locked_for}
            disabled={!canEdit}
            onKeep={(found) => put({ locked_for: found }, `locked for ${found ?? "any time"}`)}
          />
        </>
      )}
    </>
  );
}

/** Where points count, as one of the choices; what says more than one thing is only named. */
function placeOf(counted: Counted): string {
  const { targets, not_targets: not, sites, off_site: off } = counted;
  const said = [targets, not, sites, off || null].filter((one) => one != null);
  if (said.length === 0) return "any";
  if (said.length > 1 || sites) return "named";
  if (off) return "off";
  if (targets?.length === 1) return `on ${targets[0]}`;
  return not?.length === 1 ? `not ${not[0]}` : "named";
}
