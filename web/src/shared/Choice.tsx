import { MenuItem, TextField } from "@mui/material";
import { memo } from "react";
import { useSame, useSteady } from "./useSteady";

interface Props<T extends string> {
  label: string;
  value: T;
  options: Record<T, string>;
  disabled: boolean;
  onChange: (value: T) => void;
}

/** A word of a sentence that is chosen from a few. */
export function Choice<T extends string>({ options, onChange, ...word }: Props<T>) {
  return (
    <Chosen {...word} options={useSame(options)} onChange={useSteady(onChange) as (value: string) => void} />
  );
}

/** The word as it is drawn: not anew while a sentence around it says the same in this place. */
const Chosen = memo(function Chosen({ label, value, options, disabled, onChange }: Props<string>) {
  return (
    <TextField
      select
      value={value}
      disabled={disabled}
      onChange={(event) => onChange(event.target.value)}
      slotProps={{
        select: {
          displayEmpty: true,
          SelectDisplayProps: { "aria-label": label },
          sx: { "& .MuiSelect-select": { py: "3px", pl: 1 } },
        },
      }}
    >
      {Object.entries(options).map(([name, words]) => (
        <MenuItem key={name} value={name} dense>
          {words}
        </MenuItem>
      ))}
    </TextField>
  );
});
