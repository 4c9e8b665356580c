import { ToggleButton, ToggleButtonGroup, Typography } from "@mui/material";
import { client, unwrap } from "../../api/client";
import type { Pattern, Run } from "../../api/types";
import { useDesign } from "../../design/context";
import { Choice } from "../../shared/Choice";
import { NumberField } from "../../shared/NumberField";
import { FIRST, WEEKDAY_NAMES } from "../../shared/words";
import type { Props } from "./RunTimes";

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

export function PatternWords({
  run,
  pattern,
  onKeep,
}: {
  run: Run;
  pattern: Pattern;
  onKeep: Props["onKeep"];
}) {
  const { canEdit } = useDesign();
  const name = run.name || run.id;
  const set = async (change: Partial<Pattern>) => {
    const rule = await unwrap(client.POST("/api/rules", { body: { ...pattern, ...change } })).catch(
      () => null,
    );
    if (rule) onKeep({ ...run, rrule: rule.rrule }, `${name}: ${rule.sentence}`);
  };
  const repeat = (repeats: Pattern["repeats"]) => {
    const day = pattern.weekdays[0] ?? FIRST.weekday;
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
            value={pattern.weekdays[0] ?? FIRST.weekday}
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
