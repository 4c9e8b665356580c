import CloseIcon from "@mui/icons-material/Close";
import { Box, Button, IconButton, Stack, ToggleButton, ToggleButtonGroup, Typography } from "@mui/material";
import { useState } from "react";
import { client, unwrap } from "../../api/client";
import type { CadenceReading, Pattern, Run, Window } from "../../api/types";
import { useDesign } from "../../design/context";
import { Choice } from "../../shared/Choice";
import { NumberField } from "../../shared/NumberField";
import { TextWord } from "../../shared/TextWord";
import { KIND_NAMES, WEEKDAY_NAMES } from "../../shared/words";

interface Props {
  run: Run;
  reading: CadenceReading["runs"][number] | undefined;
  removable: boolean;
  onKeep: (run: Run | null, what: string) => void;
}

const REPEATS: Record<Pattern["repeats"], string> = {
  hourly: "hours",
  daily: "days",
  weekly: "weeks, on",
  "monthly-weekday": "months, on the",
  "monthly-day": "months, on day",
  yearly: "years, on day",
};
const NTH: Record<string, string> = {
  "1": "first",
  "2": "second",
  "3": "third",
  "4": "fourth",
  "5": "fifth",
  "-1": "last",
};
/** One run as a sentence: what it takes, how often, on which days, at which times. */
export function RunWords({ run, reading, removable, onKeep }: Props) {
  const { canEdit } = useDesign();
  const name = run.name || run.id;
  return (
    <Box
      sx={{
        borderTop: 1,
        borderColor: "divider",
        pt: 0.75,
        display: "grid",
        gridTemplateColumns: "1fr 30px",
        alignItems: "center",
      }}
    >
      <Stack direction="row" sx={{ gap: 0.75, alignItems: "center", flexWrap: "wrap" }}>
        <TextWord
          label={`Name of ${name}`}
          value={run.name ?? ""}
          placeholder={run.id}
          disabled={!canEdit}
          quiet
          width={118}
          onKeep={(text) => {
            onKeep({ ...run, name: text }, `${name} renamed to ${text}`);
            return undefined;
          }}
        />
        <Choice
          label={`Kind of ${name}`}
          value={run.kind}
          options={KIND_NAMES}
          disabled={!canEdit}
          onChange={(kind) => onKeep({ ...run, kind }, `${name}: ${KIND_NAMES[kind]}`)}
        />
        {reading?.pattern && <PatternWords run={run} pattern={reading.pattern} onKeep={onKeep} />}
        {reading && !reading.pattern && <Typography>{reading.sentence}</Typography>}
        {run.rrule && <Times run={run} window={reading?.window ?? null} onKeep={onKeep} />}
        {run.rrule && <Dates run={run} onKeep={onKeep} />}
      </Stack>
      {canEdit && removable && (
        <IconButton
          size="small"
          aria-label={`Remove the run ${name}`}
          onClick={() => onKeep(null, `removed ${name}`)}
        >
          <CloseIcon fontSize="small" />
        </IconButton>
      )}
    </Box>
  );
}

function PatternWords({ run, pattern, onKeep }: { run: Run; pattern: Pattern; onKeep: Props["onKeep"] }) {
  const { canEdit } = useDesign();
  const name = run.name || run.id;
  const set = async (change: Partial<Pattern>) => {
    const rule = await unwrap(client.POST("/api/rules", { body: { ...pattern, ...change } })).catch(
      () => null,
    );
    if (rule) onKeep({ ...run, rrule: rule.rrule }, `${name}: ${rule.sentence}`);
  };
  const repeat = (repeats: Pattern["repeats"]) => {
    const day = pattern.weekdays[0] ?? "SA";
    const weekdays = repeats === "weekly" || repeats === "monthly-weekday" ? [day] : [];
    void set({ repeats, weekdays });
  };
  const field = { disabled: !canEdit, onTry: () => undefined };
  return (
    <>
      <Typography>every</Typography>
      <NumberField
        {...field}
        label={`Interval of ${name}`}
        value={pattern.every}
        min={1}
        width={58}
        onKeep={(every) => void set({ every })}
      />
      <Choice
        label={`Unit of ${name}`}
        value={pattern.repeats}
        options={REPEATS}
        disabled={!canEdit}
        onChange={repeat}
      />
      {pattern.repeats === "weekly" && (
        <Weekdays
          label={`Days of ${name}`}
          days={pattern.weekdays}
          onChange={(weekdays) => void set({ weekdays })}
        />
      )}
      {pattern.repeats === "monthly-weekday" && (
        <>
          <Choice
            label={`Which of ${name}`}
            value={String(pattern.nth)}
            options={NTH}
            disabled={!canEdit}
            onChange={(nth) => void set({ nth: Number(nth) })}
          />
          <Choice
            label={`Weekday of ${name}`}
            value={pattern.weekdays[0] ?? "SA"}
            options={WEEKDAY_NAMES}
            disabled={!canEdit}
            onChange={(day) => void set({ weekdays: [day as Pattern["weekdays"][number]] })}
          />
        </>
      )}
      {(pattern.repeats === "monthly-day" || pattern.repeats === "yearly") && (
        <NumberField
          {...field}
          label={`Day of ${name}`}
          value={pattern.day}
          min={1}
          width={58}
          onKeep={(day) => void set({ day })}
        />
      )}
      {pattern.repeats === "yearly" && (
        <>
          <Typography>of month</Typography>
          <NumberField
            {...field}
            label={`Month of ${name}`}
            value={pattern.month}
            min={1}
            width={58}
            onKeep={(month) => void set({ month })}
          />
        </>
      )}
    </>
  );
}

function Weekdays({
  label,
  days,
  onChange,
}: {
  label: string;
  days: string[];
  onChange: (days: Pattern["weekdays"]) => void;
}) {
  const { canEdit } = useDesign();
  return (
    <ToggleButtonGroup
      size="small"
      aria-label={label}
      value={days}
      disabled={!canEdit}
      onChange={(_, chosen: Pattern["weekdays"]) => chosen.length > 0 && onChange(chosen)}
    >
      {Object.entries(WEEKDAY_NAMES).map(([code, day]) => (
        <ToggleButton
          key={code}
          value={code}
          aria-label={day}
          sx={{
            py: "2px",
            px: 0.9,
            textTransform: "none",
            color: "text.secondary",
            "&.Mui-selected": { color: "text.primary" },
          }}
        >
          {day.slice(0, 2)}
        </ToggleButton>
      ))}
    </ToggleButtonGroup>
  );
}

function Times({ run, window, onKeep }: { run: Run; window: Window | null; onKeep: Props["onKeep"] }) {
  const { canEdit } = useDesign();
  const name = run.name || run.id;
  const every = window !== null && run.rrule?.startsWith("FREQ=DAILY") === true;
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
        options={{ at: run.rrule?.startsWith("FREQ=HOURLY") ? "from" : "at", window: "each day every" }}
        disabled={!canEdit || (!every && run.rrule?.startsWith("FREQ=HOURLY") === true)}
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
function Dates({ run, onKeep }: { run: Run; onKeep: Props["onKeep"] }) {
  const { canEdit } = useDesign();
  const [shown, setShown] = useState(false);
  const name = run.name || run.id;
  const skipped = run.except ?? [];
  const isLimited = Boolean(run.from || run.until || skipped.length > 0);
  if (!isLimited && !shown) return canEdit ? <Button onClick={() => setShown(true)}>Dates</Button> : null;
  const date = (field: "from" | "until", word: string) => (
    <>
      <Typography>{word}</Typography>
      <TextWord
        type="date"
        label={`${name} ${word}`}
        value={run[field] ?? ""}
        disabled={!canEdit}
        width={142}
        onKeep={(text) => {
          onKeep({ ...run, [field]: text || null }, `${name} ${word} ${text || "no date"}`);
          return undefined;
        }}
      />
    </>
  );
  return (
    <>
      {date("from", "from")}
      {date("until", "until")}
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
