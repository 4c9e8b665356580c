import { MenuItem, TextField } from "@mui/material";

interface Props<T extends string> {
  label: string;
  value: T;
  options: Record<T, string>;
  disabled: boolean;
  onChange: (value: T) => void;
}

/** A word of a sentence that is chosen from a few. */
export function Choice<T extends string>({ label, value, options, disabled, onChange }: Props<T>) {
  return (
    <TextField
      select
      value={value}
      disabled={disabled}
      onChange={(event) => onChange(event.target.value as T)}
      slotProps={{
        select: {
          displayEmpty: true,
          SelectDisplayProps: { "aria-label": label },
          sx: { "& .MuiSelect-select": { py: "3px", pl: 1 } },
        },
      }}
    >
      {(Object.entries(options) as [T, string][]).map(([name, words]) => (
        <MenuItem key={name} value={name} dense>
          {words}
        </MenuItem>
      ))}
    </TextField>
  );
}
