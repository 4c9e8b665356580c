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
  const where = now.off_site
    ? "off"
    : now.targets?.length === 1
      ? `on ${now.targets[0]}`
      : now.targets || now.sites
        ? "named"
        : "any";
  const places: Record<string, string> = {
    any: "anywhere",
    off: "off site",
    ...(where === "named" ? { named: "in the places named in the document" } : {}),
    ...Object.fromEntries(targets.map((one) => [`on ${one.id}`, `on ${one.name || one.id}`])),
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
              targets: word.startsWith("on ") ? [word.slice(3)] : null,
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
