import { Typography } from "@mui/material";
import { Choice } from "./Choice";
import { durationText, partsOf, UNIT_NAMES, type Unit } from "./durations";
import { NumberField } from "./NumberField";

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
  const options = Object.fromEntries(units.map((unit) => [unit, UNIT_NAMES[unit]])) as Record<Unit, string>;
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
        options={{ ...options, [parts.unit]: UNIT_NAMES[parts.unit] }}
        disabled={disabled}
        onChange={(unit) => onKeep(durationText(parts.count, unit))}
      />
    </>
  );
}
