import { VOCABULARY } from "../../api/generated/vocabulary";
import type { Ask, Counted } from "../../api/types";
import { useDesign } from "../../design/context";
import { Choice } from "../../shared/Choice";
import { NumberField } from "../../shared/NumberField";
import { TimeWord } from "../../shared/TimeWord";
import { FIRST } from "../../shared/words";
import { CountedWords } from "./CountedWords";

const ASKS = VOCABULARY.asks;
type Kind = keyof typeof ASKS;

interface Props {
  label: string;
  ask: Ask;
  onKeep: (ask: Ask, what: string) => Promise<boolean>;
}

/** One thing that a duty asks, as a sentence whose words are chosen and typed. */
export function AskWords({ label, ask, onKeep }: Props) {
  const { design, canEdit } = useDesign();
  const cases = design.document.loss_cases ?? [];
  const kind = kindOf(ask);
  const choose = (next: Kind) => {
    const start = { ...ASKS[next].ask } as Ask;
    if (next.startsWith("stands")) start.stands = cases[0]?.id ?? null;
    void onKeep(start, ASKS[next].name);
  };
  const put = (change: Partial<Ask>, what: string) => onKeep({ ...ask, ...change }, what);
  const props = { label, ask, put, disabled: !canEdit };
  return (
    <>
      <Choice
        label={`What ${label} asks`}
        value={kind}
        options={namesOf(kind, cases.length > 0)}
        disabled={!canEdit}
        onChange={choose}
      />
      {kind === "rpo" && <Long {...props} field="rpo" what="Age" />}
      {kind === "history" && <HistoryWords {...props} />}
      {kind === "copies" && <CopiesWords {...props} />}
      {kind === "gone_after" && <Long {...props} field="gone_after" what="Time" />}
      {kind.startsWith("stands") && <StandsWords {...props} kind={kind} />}
      {kind === "rehearsed" && <RehearsedWords {...props} />}
      {["rpo", "history", "copies", "stands-rpo", "stands-rto", "rehearsed"].includes(kind) &&
        ask.first_by && (
          <>
            , first after
            <TimeWord
              label={`Time to begin, ${label}`}
              value={ask.first_by}
              disabled={!canEdit}
              onKeep={(first_by) => put({ first_by }, "a time to begin")}
            />
          </>
        )}
      {["rpo", "history", "copies", "gone_after"].includes(kind) && (
        <CountedWords
          label={label}
          counted={ask.counted ?? null}
          onKeep={(counted: Counted | null, what) => put({ counted }, what)}
        />
      )}
    </>
  );
}

function kindOf(ask: Ask): Kind {
  if (ask.stands) return ask.rto ? "stands-rto" : "stands-rpo";
  return (
    (["rpo", "history", "copies", "gone_after", "rehearsed"] as const).find((one) => ask[one] != null) ??
    "rpo"
  );
}

interface WordProps {
  label: string;
  ask: Ask;
  put: (change: Partial<Ask>, what: string) => Promise<boolean>;
  disabled: boolean;
}

type LongField = "rpo" | "rto" | "history" | "gone_after" | "rehearsed" | "fresh";

function Long({ label, ask, put, disabled, field, what }: WordProps & { field: LongField; what: string }) {
  return (
    <TimeWord
      label={`${what} of ${label}`}
      value={ask[field]}
      disabled={disabled}
      onKeep={(found) => put({ [field]: found }, `${what.toLowerCase()} ${found ?? "none"}`)}
    />
  );
}

/** What can be chosen to ask: of cases only where there are some. */
function namesOf(kind: Kind, hasCases: boolean): Record<Kind, string> {
  const some = Object.entries(ASKS).filter(([one]) => hasCases || !one.startsWith("stands") || one === kind);
  return Object.fromEntries(some.map(([one, { name }]) => [one, name])) as Record<Kind, string>;
}

function StandsWords(props: WordProps & { kind: Kind }) {
  const { label, ask, put, disabled, kind } = props;
  const { design } = useDesign();
  const cases = design.document.loss_cases ?? [];
  const isLoss = kind === "stands-rpo";
  return (
    <>
      <Choice
        label={`Case of ${label}`}
        value={ask.stands ?? ""}
        options={Object.fromEntries(cases.map((one) => [one.id, one.name || one.id]))}
        disabled={disabled}
        onChange={(stands) => void put({ stands }, `stands ${stands}`)}
      />
      {isLoss ? "with no more lost than" : "and is back within"}
      <Long {...props} field={isLoss ? "rpo" : "rto"} what="Time" />
      {!isLoss && (
        <Choice
          label={`When it counts as back, ${label}`}
          value={ask.degraded ? "degraded" : "whole"}
          options={{ whole: "in full", degraded: "or runs from the backup" }}
          disabled={disabled}
          onChange={(word) => void put({ degraded: word === "degraded" }, word)}
        />
      )}
    </>
  );
}

function RehearsedWords(props: WordProps) {
  const { label, ask, put, disabled } = props;
  return (
    <>
      <Long {...props} field="rehearsed" what="Time" />
      <Choice
        label={`Which rehearsals count, ${label}`}
        value={ask.acted ? "acted" : "real"}
        options={{ real: "carried out in earnest", acted: "carried out or acted" }}
        disabled={disabled}
        onChange={(word) => void put({ acted: word === "acted" }, word)}
      />
    </>
  );
}

function HistoryWords(props: WordProps) {
  const { label, ask, put, disabled } = props;
  const periods: Record<string, string> = VOCABULARY.every_period;
  const every = ask.every ?? "day";
  const isPeriod = every in periods;
  return (
    <>
      <Choice
        label={`How near of ${label}`}
        value={isPeriod ? every : "length"}
        options={{ ...periods, length: "at least every" }}
        disabled={disabled}
        onChange={(word) =>
          void put({ every: word === "length" ? FIRST.distance : (word as Ask["every"]) }, `each ${word}`)
        }
      />
      {!isPeriod && (
        <TimeWord
          label={`Distance of ${label}`}
          value={every}
          disabled={disabled}
          onKeep={(found) => put({ every: found as Ask["every"] }, `every ${found ?? ""}`)}
        />
      )}
      , as far back as
      <Long {...props} field="history" what="Reach" />
    </>
  );
}

function CopiesWords(props: WordProps) {
  const { label, ask, put, disabled } = props;
  const number = (field: "copies" | "media" | "off_site", what: string, min: number) => (
    <NumberField
      label={`${what} of ${label}`}
      value={ask[field] ?? 0}
      min={min}
      disabled={disabled}
      onTry={() => undefined}
      onKeep={(count) => void put({ [field]: count }, `${count} ${what.toLowerCase()}`)}
    />
  );
  return (
    <>
      {number("copies", "Copies", 1)}
      copies with the original, on
      {number("media", "Media", 0)}
      kinds of media,
      {number("off_site", "Copies off site", 0)}
      off site, none older than
      <Long {...props} field="fresh" what="Freshness" />
    </>
  );
}
