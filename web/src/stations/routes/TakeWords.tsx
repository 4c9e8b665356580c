import type { Copy, Kind } from "../../api/types";
import { useDesign } from "../../design/context";
import { Choice } from "../../shared/Choice";
import { DurationWord } from "../../shared/DurationWord";
import { Line } from "../../shared/Line";
import { SeveralWords } from "../../shared/SeveralWords";
import { FIRST, KIND_NAMES } from "../../shared/words";
import type { CopyLineProps } from "./CopyEditor";

type Way = "own" | "follow" | "read";
type TakeWay = "all" | "kinds" | "runs" | "rungs";

const TAKES: Record<TakeWay, string> = {
  all: "every point",
  kinds: "only the kinds",
  runs: "only what these runs took",
  rungs: "only what these rungs picked",
};

/** Where a copy has its points from, when, and which of them. */
export function TakeWords(props: CopyLineProps) {
  const { route, copy, canEdit, keep } = props;
  const { design } = useDesign();
  const { targets, cadences } = design.document;
  const earlier = route.copies.slice(0, route.copies.indexOf(copy));
  const way: Way = !copy.from ? "own" : copy.cadence ? "read" : "follow";
  const ways: Partial<Record<Way, string>> = {
    own: "takes its own points by",
    ...(earlier.length > 0 ? { follow: "follows", read: "reads at its own times" } : {}),
  };
  const choose = (next: Way) => {
    const cadence = copy.cadence ?? cadences[0]?.id ?? null;
    const from = copy.from ?? earlier[0]?.id ?? null;
    const changes: Record<Way, Partial<Copy>> = {
      own: { from: null, take: null, delay: null, cadence },
      follow: { from, cadence: null },
      read: { from, cadence, take: null, delay: null },
    };
    void keep(changes[next], ways[next] ?? next);
  };
  const named = (entries: readonly { id: string; name?: string }[]) =>
    Object.fromEntries(entries.map((one) => [one.id, one.name || one.id]));
  return (
    <Line label="What it takes">
      On
      <Choice
        label="Target of the copy"
        value={copy.target}
        options={named(targets)}
        disabled={!canEdit}
        onChange={(target) => void keep({ target }, `moved to ${named(targets)[target]}`)}
      />
      it
      <Choice
        label="Where its points come from"
        value={way}
        options={ways as Record<Way, string>}
        disabled={!canEdit}
        onChange={choose}
      />
      {way !== "own" && (
        <Choice
          label="Source copy"
          value={copy.from ?? ""}
          options={named(earlier)}
          disabled={!canEdit}
          onChange={(from) => void keep({ from }, `comes from ${from}`)}
        />
      )}
      {way === "read" && "by"}
      {way !== "follow" && (
        <Choice
          label="Cadence of the copy"
          value={copy.cadence ?? ""}
          options={named(cadences)}
          disabled={!canEdit}
          onChange={(cadence) => void keep({ cadence }, `by ${named(cadences)[cadence]}`)}
        />
      )}
      {way === "follow" && <Following {...props} />}
    </Line>
  );
}

function Following({ route, copy, canEdit, keep, tryOut }: CopyLineProps) {
  const { design } = useDesign();
  const source = route.copies.find((one) => one.id === copy.from);
  const runs = design.document.cadences.find((one) => one.id === source?.cadence)?.runs ?? [];
  const rungs = design.document.ladders.find((one) => one.id === source?.ladder)?.rungs ?? [];
  const by: TakeWay = !copy.take || copy.take === "all" ? "all" : (Object.keys(copy.take)[0] as TakeWay);
  const chosen = copy.take && copy.take !== "all" ? (Object.values(copy.take)[0] as string[]) : [];
  const options: Record<TakeWay, Record<string, string>> = {
    all: {},
    kinds: KIND_NAMES,
    runs: Object.fromEntries(runs.map((run) => [run.id, run.name || run.id])),
    rungs: Object.fromEntries(rungs.map((rung) => [rung.name, rung.name])),
  };
  const take = (way: TakeWay, names: string[]): Copy["take"] =>
    way === "all"
      ? null
      : way === "kinds"
        ? { kinds: names as Kind[] }
        : way === "runs"
          ? { runs: names }
          : { rungs: names };
  const ways = Object.fromEntries(
    Object.entries(TAKES).filter(
      ([way]) => way === "all" || way === by || Object.keys(options[way as TakeWay]).length > 0,
    ),
  ) as Record<TakeWay, string>;
  return (
    <>
      <DurationWord
        label="Delay"
        value={copy.delay ?? FIRST.delay}
        disabled={!canEdit}
        onTry={(delay) => tryOut({ delay })}
        onKeep={(delay) => void keep({ delay }, `delay ${delay}`)}
      />
      after it, taking
      <Choice
        label="What it takes of the source"
        value={by}
        options={ways}
        disabled={!canEdit}
        onChange={(way) =>
          void keep({ take: take(way, Object.keys(options[way]).slice(0, 1)) }, `takes ${TAKES[way]}`)
        }
      />
      {by !== "all" && (
        <SeveralWords
          label={`Which ${by}`}
          values={chosen}
          options={options[by]}
          disabled={!canEdit}
          onChange={(names) => void keep({ take: take(by, names) }, `takes ${names.join(", ")}`)}
        />
      )}
    </>
  );
}
