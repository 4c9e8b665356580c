import { Button, Typography } from "@mui/material";
import { useState } from "react";
import { client, unwrap } from "../../api/client";
import type { CadenceReading, Run, Window } from "../../api/types";
import { useDesign } from "../../design/context";
import { Choice } from "../../shared/Choice";
import { DateWord } from "../../shared/DateWord";
import { NumberField } from "../../shared/NumberField";
import { TextWord } from "../../shared/TextWord";
import { FIRST } from "../../shared/words";

export interface Props {
  run: Run;
  reading: CadenceReading["runs"][number] | undefined;
  removable: boolean;
  onKeep: (run: Run | null, what: string) => void;
}

export function Times({ run, reading, onKeep }: Pick<Props, "run" | "reading" | "onKeep">) {
  const { canEdit } = useDesign();
  const window = reading?.window ?? null;
  const repeats = reading?.pattern?.repeats;
  const name = run.name || run.id;
  const every = window !== null && repeats === "daily";
  const keep = async (at: string[]) => {
    onKeep({ ...run, at }, `${name}: at ${at.join(", ")}`);
    return true;
  };
  const spread = async (change: Partial<Window>) => {
    const body = { first: "08:00", last: "20:00", minutes: 240, ...window, ...change };
    const answer = await unwrap(client.POST("/api/window", { body })).catch(() => null);
    return answer !== null && keep(answer.at);
  };
  return (
    <>
      <Choice
        label={`How ${name} is spread over the day`}
        value={every ? "window" : "at"}
        options={{ at: repeats === "hourly" ? "from" : "at", window: "each day every" }}
        disabled={!canEdit || (!every && repeats === "hourly")}
        onChange={(way) => void (way === "window" ? spread({}) : keep(run.at.slice(0, 1)))}
      />
      {every && window ? (
        <>
          <NumberField
            label={`Minutes between runs of ${name}`}
            value={window.minutes}
            min={1}
            disabled={!canEdit}
            onTry={() => undefined}
            onKeep={(minutes) => void spread({ minutes })}
          />
          <Typography>minutes from</Typography>
          <TextWord
            label={`First run of ${name}`}
            value={window.first}
            disabled={!canEdit}
            width={66}
            onKeep={(first) => spread({ first })}
          />
          <Typography>to</Typography>
          <TextWord
            label={`Last run of ${name}`}
            value={window.last}
            disabled={!canEdit}
            width={66}
            onKeep={(last) => spread({ last })}
          />
        </>
      ) : (
        <TextWord
          label={`Times of ${name}`}
          value={run.at.join(", ")}
          disabled={!canEdit}
          width={Math.min(420, Math.max(76, 20 + 8.5 * run.at.join(", ").length))}
          onKeep={(text) => keep(text.split(/[\s,]+/).filter((time) => time !== ""))}
        />
      )}
    </>
  );
}

/** From when until when a run comes, and the dates on which it does not. */
export function Dates({ run, onKeep }: { run: Run; onKeep: Props["onKeep"] }) {
  const { canEdit, design } = useDesign();
  const [shown, setShown] = useState(false);
  const name = run.name || run.id;
  const skipped = run.except ?? [];
  const isLimited = Boolean(run.from || run.until || run.timezone || skipped.length > 0);
  if (!isLimited && !shown) return canEdit ? <Button onClick={() => setShown(true)}>Dates</Button> : null;
  const date = (field: "from" | "until", word: string) => (
    <>
      <Typography>{word}</Typography>
      <DateWord
        label={`${name} ${word}`}
        value={run[field]}
        disabled={!canEdit}
        onKeep={async (day) => {
          onKeep({ ...run, [field]: day }, `${name} ${word} ${day ?? "no date"}`);
          return true;
        }}
      />
    </>
  );
  return (
    <>
      {date("from", "from")}
      {date("until", "until")}
      <Typography>by the clock of</Typography>
      <TextWord
        label={`Time zone of ${name}`}
        value={run.timezone ?? ""}
        placeholder={design.document.timezone}
        disabled={!canEdit}
        width={150}
        onKeep={(text) => {
          onKeep(
            { ...run, timezone: text.trim() || null },
            `${name} by the clock of ${text.trim() || "the design"}`,
          );
          return undefined;
        }}
      />
      <Typography>but not on</Typography>
      <TextWord
        label={`Dates that ${name} skips`}
        value={skipped.join(", ")}
        placeholder="2027-12-24, …"
        disabled={!canEdit}
        width={Math.min(420, Math.max(120, 20 + 8 * skipped.join(", ").length))}
        onKeep={(text) => {
          const days = text.split(/[\s,]+/).filter((day) => day !== "");
          onKeep({ ...run, except: days }, `${name} skips ${days.join(", ") || "no date"}`);
          return undefined;
        }}
      />
    </>
  );
}

/** Whether a run repeats or comes at single times, and these. */
export function SingleTimes({ run, onKeep }: { run: Run; onKeep: Props["onKeep"] }) {
  const { canEdit, design } = useDesign();
  const name = run.name || run.id;
  const times = run.once ?? null;
  const choose = (way: "repeats" | "once") => {
    // Times of day belong to what repeats alone.
    const { at: _, rrule: __, once: ___, ...rest } = run;
    const change =
      way === "once" ? { once: [`${design.document.starts}T22:00`] } : { rrule: FIRST.rrule, at: ["22:00"] };
    onKeep({ ...rest, ...change } as Run, `${name} ${way === "once" ? "at single times" : "repeats"}`);
  };
  return (
    <>
      <Choice
        label={`How ${name} comes`}
        value={times ? "once" : "repeats"}
        options={{ repeats: "repeats", once: "at single times:" }}
        disabled={!canEdit}
        onChange={choose}
      />
      {times && (
        <TextWord
          label={`Single times of ${name}`}
          value={times.map((time) => time.replace("T", " ")).join(", ")}
          disabled={!canEdit}
          width={Math.min(420, Math.max(160, 20 + 8.5 * 16 * times.length))}
          onKeep={(text) => {
            const once = text
              .split(",")
              .map((time) => time.trim().replace(" ", "T"))
              .filter((time) => time !== "");
            onKeep({ ...run, once } as Run, `${name} at ${text}`);
            return undefined;
          }}
        />
      )}
    </>
  );
}
