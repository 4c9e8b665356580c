import CloseIcon from "@mui/icons-material/Close";
import {
  Box,
  IconButton,
  Stack,
  TextField,
  ToggleButton,
  ToggleButtonGroup,
  Typography,
} from "@mui/material";
import { useEffect, useState } from "react";
import { client, unwrap } from "../../api/client";
import type { CadenceReading, Pattern, Run } from "../../api/types";
import { useDesign } from "../../design/context";
import { Choice } from "../../shared/Choice";
import { NumberField } from "../../shared/NumberField";
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
const KINDS = Object.fromEntries(
  Object.entries(KIND_NAMES).filter(([kind]) => kind !== "snapshot"),
) as typeof KIND_NAMES;

/** One run as a sentence: what it takes, how often, on which days, at which times. */
export function RunWords({ run, reading, removable, onKeep }: Props) {
  const { canEdit } = useDesign();
  const name = run.name || run.id;
  return (
    <Box sx={{ borderTop: 1, borderColor: "divider", pt: 0.75 }}>
      <Stack direction="row" sx={{ gap: 1, alignItems: "center", flexWrap: "wrap" }}>
        <Typography sx={{ width: 112, fontWeight: 600 }} noWrap title={reading?.sentence}>
          {name}
        </Typography>
        <Choice
          label={`Kind of ${name}`}
          value={run.kind}
          options={KINDS}
          disabled={!canEdit}
          onChange={(kind) => onKeep({ ...run, kind }, `${name}: ${KIND_NAMES[kind]}`)}
        />
        {reading?.pattern && <PatternWords run={run} pattern={reading.pattern} onKeep={onKeep} />}
        {reading && !reading.pattern && <Typography>{reading.sentence}</Typography>}
        {run.rrule && <Times run={run} onKeep={onKeep} />}
        <Box sx={{ flex: 1 }} />
        {canEdit && removable && (
          <IconButton
            size="small"
            aria-label={`Remove the run ${name}`}
            onClick={() => onKeep(null, `removed ${name}`)}
          >
            <CloseIcon fontSize="small" />
          </IconButton>
        )}
      </Stack>
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
          {day.slice(0, 3)}
        </ToggleButton>
      ))}
    </ToggleButtonGroup>
  );
}

function Times({ run, onKeep }: { run: Run; onKeep: Props["onKeep"] }) {
  const { canEdit } = useDesign();
  const name = run.name || run.id;
  const [text, setText] = useState(run.at.join(", "));
  useEffect(() => setText(run.at.join(", ")), [run]);
  const times = text.split(/[\s,]+/).filter((time) => time !== "");
  const sound = times.length > 0 && times.every((time) => /^([01]\d|2[0-3]):[0-5]\d$/.test(time));
  const keep = () => {
    if (!sound) setText(run.at.join(", "));
    else if (times.join() !== run.at.join()) onKeep({ ...run, at: times }, `${name}: at ${times.join(", ")}`);
  };
  return (
    <>
      <Typography>{run.rrule?.startsWith("FREQ=HOURLY") ? "from" : "at"}</Typography>
      <TextField
        value={text}
        error={!sound}
        disabled={!canEdit}
        onChange={(event) => setText(event.target.value)}
        onBlur={keep}
        onKeyDown={(event) => event.key === "Enter" && keep()}
        sx={{ width: Math.max(76, 20 + 8.5 * text.length) }}
        slotProps={{ htmlInput: { "aria-label": `Times of ${name}`, style: { padding: "3px 8px" } } }}
      />
    </>
  );
}
