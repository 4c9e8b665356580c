import { MenuItem, TextField } from "@mui/material";

interface Props {
  label: string;
  values: readonly string[];
  options: Record<string, string>;
  disabled: boolean;
  onChange: (values: string[]) => void;
}

/** Several words of a sentence that are chosen from a few; the last one stays. */
export function SeveralWords({ label, values, options, disabled, onChange }: Props) {
  return (
    <TextField
      select
      value={values}
      disabled={disabled}
      onChange={(event) => {
        const chosen = event.target.value as unknown as string[];
        if (chosen.length > 0) onChange(Object.keys(options).filter((name) => chosen.includes(name)));
      }}
      slotProps={{
        select: {
          multiple: true,
          renderValue: (chosen: unknown) =>
            (chosen as string[]).map((name) => options[name] ?? name).join(", "),
          SelectDisplayProps: { "aria-label": label },
          sx: { "& .MuiSelect-select": { py: "3px", pl: 1, maxWidth: 320 } },
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
}
