import { TextField, type TextFieldProps } from "@mui/material";
import { useState } from "react";
import { readTyped } from "../api/typed";

interface Props extends Omit<TextFieldProps, "value" | "onChange"> {
  label: string;
  /** What stands there: a date, or what is not read yet. */
  value: string;
  onChange: (text: string) => void;
}

/** A date with a label of its own, as a dialog asks for it: the core reads it when the hand leaves the field. */
export function DateField({ value, onChange, ...rest }: Props) {
  const [why, setWhy] = useState<string | null>(null);
  const read = async () => {
    if (value.trim() === "") return;
    const found = await readTyped("date", value);
    setWhy("why" in found ? found.why : null);
    if ("value" in found) onChange(String(found.value));
  };
  return (
    <TextField
      {...rest}
      value={value}
      placeholder="2027-01-31"
      error={why !== null}
      helperText={why === null ? undefined : <span role="alert">{why}</span>}
      onChange={(event) => {
        setWhy(null);
        onChange(event.target.value);
      }}
      onBlur={() => void read()}
    />
  );
}
