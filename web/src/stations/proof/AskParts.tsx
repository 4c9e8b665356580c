import { VOCABULARY } from "../../api/generated/vocabulary";
import type { Ask } from "../../api/types";
import { useDesign } from "../../design/context";
import { Choice } from "../../shared/Choice";
import { NumberField } from "../../shared/NumberField";
import { TimeWord } from "../../shared/TimeWord";
import { FIRST } from "../../shared/words";

interface WordProps {
  label: string;
  ask: Ask;
  put: (change: Partial<Ask>, what: string) => Promise<boolean>;
  disabled: boolean;
}

type LongField = "rpo" | "rto" | "history" | "gone_after" | "rehearsed" | "fresh";

export function Long({
  label,
  ask,
  put,
  disabled,
  field,
  what,
}: WordProps & { field: LongField; what: string }) {
  return (
    <TimeWord
      label={`${what} of ${label}`}
      value={ask[field]}
      disabled={disabled}
      onKeep={(found) => put({ [field]: found }, `${what.toLowerCase()} ${found ?? "none"}`)}
    />
  );
}

export function StandsWords(props: WordProps & { isLoss: boolean }) {
  const { label, ask, put, disabled, isLoss } = props;
  const { design } = useDesign();
  const cases = design.document.loss_cases ?? [];
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

export function RehearsedWords(props: WordProps) {
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

export function HistoryWords(props: WordProps) {
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

export function CopiesWords(props: WordProps) {
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
