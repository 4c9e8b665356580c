import type { Bar, Kind, Ladder } from "../../api/types";
import { Choice } from "../../shared/Choice";
import { NumberField } from "../../shared/NumberField";
import { SeveralWords } from "../../shared/SeveralWords";
import { FIRST, KIND_NAMES } from "../../shared/words";
import { countIn, keepOf, type Way, wayOf, withKeep } from "./keeps";

export interface RowProps {
  bar: Bar;
  ladder: Ladder;
  runs: Record<string, string>;
  canEdit: boolean;
  onTry: (ladder: Ladder) => void;
  onKeep: (ladder: Ladder, what: string) => void;
  onRename: (place: number, name: string) => Promise<boolean>;
}

/** For which runs or kinds a rule for recent points speaks. */
export function Narrowing({ bar, ladder, runs, canEdit, onKeep }: RowProps) {
  const rule = ladder.recent[bar.place];
  if (!rule) return null;
  const way = rule.runs ? "runs" : rule.kinds ? "kinds" : "all";
  const set = (change: { runs: string[] | null; kinds: Kind[] | null }, what: string) => {
    const recent = ladder.recent.map((one, at) => (at === bar.place ? { ...one, ...change } : one));
    onKeep({ ...ladder, recent }, `${bar.label}: ${what}`);
  };
  const first = Object.keys(runs)[0];
  const change = (next: "all" | "runs" | "kinds") => {
    if (next === "runs") set({ runs: first ? [first] : null, kinds: null }, "of some runs");
    else
      set(
        { runs: null, kinds: next === "kinds" ? ["full"] : null },
        next === "kinds" ? "of some kinds" : "of all",
      );
  };
  return (
    <>
      <Choice
        label={`Which points of rule ${bar.place + 1}`}
        value={way}
        options={
          {
            all: "of all",
            kinds: "of the kinds",
            ...(first || way === "runs" ? { runs: "of the runs" } : {}),
          } as Record<"all" | "kinds" | "runs", string>
        }
        disabled={!canEdit}
        onChange={change}
      />
      {way === "kinds" && (
        <SeveralWords
          label={`Kinds of rule ${bar.place + 1}`}
          values={rule.kinds ?? []}
          options={KIND_NAMES}
          disabled={!canEdit}
          onChange={(kinds) => set({ runs: null, kinds: kinds as Kind[] }, `of ${kinds.join(", ")}`)}
        />
      )}
      {way === "runs" && (
        <SeveralWords
          label={`Runs of rule ${bar.place + 1}`}
          values={rule.runs ?? []}
          options={runs}
          disabled={!canEdit}
          onChange={(chosen) => set({ runs: chosen, kinds: null }, `of ${chosen.join(", ")}`)}
        />
      )}
    </>
  );
}

export function KeepFields({
  bar,
  ladder,
  canEdit,
  onTry,
  onKeep,
  ways,
  counted,
}: RowProps & { ways: Way[]; counted: string }) {
  const way = wayOf(bar);
  const options = Object.fromEntries(
    [...ways, ...(way === "other" ? (["other"] as const) : [])].map((one) => [one, wayWords(one, counted)]),
  ) as Record<Way, string>;
  const change = (next: Way) => {
    const count = countIn(ladder, bar) || FIRST.count;
    onKeep(withKeep(ladder, bar, keepOf(next, count, bar.part)), `${bar.label}: ${wayWords(next, counted)}`);
  };
  return (
    <>
      {way !== "forever" && way !== "other" && way !== "superseded" && (
        <NumberField
          label={`Number of ${bar.label}`}
          width={52}
          value={countIn(ladder, bar)}
          min={0}
          disabled={!canEdit}
          onTry={(count) => onTry(withKeep(ladder, bar, keepOf(way, count, bar.part)))}
          onKeep={(count) =>
            onKeep(withKeep(ladder, bar, keepOf(way, count, bar.part)), `${bar.label} set to ${count}`)
          }
        />
      )}
      <Choice
        label={`Unit of ${bar.label}`}
        value={way}
        options={options}
        disabled={!canEdit || way === "other"}
        onChange={change}
      />
    </>
  );
}

function wayWords(way: Way, counted: string): string {
  if (way === "counted") return counted;
  if (way === "forever") return "good";
  if (way === "superseded") return "until all its parts are taken again";
  return way === "other" ? "as the document says" : `${way}s of age`;
}
