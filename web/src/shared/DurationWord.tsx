import { Typography } from "@mui/material";
import { Choice } from "./Choice";
import { NumberField } from "./NumberField";

type Unit = "hour" | "day" | "week" | "month" | "year";

const LETTER: Record<Unit, string> = { hour: "H", day: "D", week: "W", month: "M", year: "Y" };
const UNITS: Record<Unit, string> = {
  hour: "hours",
  day: "days",
  week: "weeks",
  month: "months",
  year: "years",
};

interface Props {
  label: string;
  value: string;
  disabled: boolean;
  units?: readonly Unit[];
  onTry?: (duration: string) => void;
  onKeep: (duration: string) => void;
}

/** An ISO 8601 duration as a number and a unit. One that mixes units is shown as it is written. */
export function DurationWord({
  label,
  value,
  disabled,
  units = ["hour", "day", "week", "month", "year"],
  onTry,
  onKeep,
}: Props) {
  const parts = partsOf(value);
  if (parts === null) return <Typography>{value}</Typography>;
  const options = Object.fromEntries(units.map((unit) => [unit, UNITS[unit]])) as Record<Unit, string>;
  return (
    <>
      <NumberField
        label={label}
        value={parts.count}
        min={0}
        disabled={disabled}
        onTry={(count) => onTry?.(durationText(count, parts.unit))}
        onKeep={(count) => onKeep(durationText(count, parts.unit))}
      />
      <Choice
        label={`Unit of ${label}`}
        value={parts.unit}
        options={{ ...options, [parts.unit]: UNITS[parts.unit] }}
        disabled={disabled}
        onChange={(unit) => onKeep(durationText(parts.count, unit))}
      />
    </>
  );
}

function durationText(count: number, unit: Unit): string {
  return unit === "hour" ? `PT${count}H` : `P${count}${LETTER[unit]}`;
}

function partsOf(value: string): { count: number; unit: Unit } | null {
  const match = /^P(?:(\d+)([DWMY])|T(\d+)H|T0S)$/.exec(value);
  if (!match) return null;
  if (match[1] === undefined) return { count: Number(match[3] ?? 0), unit: "hour" };
  const unit = (Object.keys(LETTER) as Unit[]).find((one) => one !== "hour" && LETTER[one] === match[2]);
  return { count: Number(match[1]), unit: unit ?? "day" };
}
