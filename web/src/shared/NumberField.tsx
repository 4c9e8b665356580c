import { TextField } from "@mui/material";
import { type KeyboardEvent, useEffect, useRef, useState } from "react";

interface Props {
  label: string;
  value: number;
  min: number;
  disabled: boolean;
  /** Every sound number while it is typed. */
  onTry: (value: number) => void;
  /** The number when the hand leaves the field, or on Enter. */
  onKeep: (value: number) => void;
  width?: number;
}

/** A whole number that is tried while it is typed and kept when the hand leaves it. Escape takes it back. */
export function NumberField({ label, value, min, disabled, onTry, onKeep, width = 68 }: Props) {
  const [text, setText] = useState(String(value));
  const typing = useRef(false);
  const start = useRef(value);
  useEffect(() => {
    if (!typing.current) setText(String(value));
  }, [value]);
  const number = /^\d{1,6}$/.test(text.trim()) ? Number(text) : null;
  const sound = number !== null && number >= min;
  const keep = () => {
    typing.current = false;
    if (sound && number !== start.current) onKeep(number);
    else if (!sound) setText(String(value));
  };
  const press = (event: KeyboardEvent) => {
    if (event.key === "Enter") {
      keep();
      start.current = number ?? value;
    }
    if (event.key === "Escape") {
      typing.current = false;
      setText(String(start.current));
      onTry(start.current);
    }
  };
  return (
    <TextField
      type="number"
      value={text}
      disabled={disabled}
      error={!sound}
      onFocus={() => {
        start.current = value;
      }}
      onChange={(event) => {
        typing.current = true;
        setText(event.target.value);
        const typed = /^\d{1,6}$/.test(event.target.value) ? Number(event.target.value) : null;
        if (typed !== null && typed >= min) onTry(typed);
      }}
      onBlur={keep}
      onKeyDown={press}
      sx={{ width }}
      slotProps={{
        htmlInput: { "aria-label": label, min, style: { padding: "3px 8px", textAlign: "right" } },
      }}
    />
  );
}
