import { TextField } from "@mui/material";
import { type KeyboardEvent, memo, useEffect, useRef, useState } from "react";
import { useSteady } from "./useSteady";

/** What the rules of a design count at most. */
const MOST = 1_000_000;

/** The whole number that a text is, if it lies between two others; null for anything else. */
function wholeOf(text: string, min: number, max: number): number | null {
  const number = /^\d{1,7}$/.test(text.trim()) ? Number(text) : null;
  return number !== null && number >= min && number <= max ? number : null;
}

interface Props {
  label: string;
  value: number;
  min: number;
  max?: number;
  disabled: boolean;
  /** Every sound number while it is typed. */
  onTry: (value: number) => void;
  /** The number when the hand leaves the field, or on Enter. */
  onKeep: (value: number) => void;
  width?: number;
}

/** A whole number that is tried while it is typed and kept when the hand leaves it. Escape takes it back. */
export function NumberField({ onTry, onKeep, ...word }: Props) {
  return <Typed {...word} onTry={useSteady(onTry)} onKeep={useSteady(onKeep)} />;
}

/** The number as it is drawn: not anew while a sentence around it says the same in this place. */
const Typed = memo(function Typed({
  label,
  value,
  min,
  max = MOST,
  disabled,
  onTry,
  onKeep,
  width = 68,
}: Props) {
  const [text, setText] = useState(String(value));
  const typing = useRef(false);
  const start = useRef(value);
  useEffect(() => {
    if (!typing.current) setText(String(value));
  }, [value]);
  const number = wholeOf(text, min, max);
  const sound = number !== null;
  const keep = () => {
    typing.current = false;
    if (sound && number !== start.current) onKeep(number);
    else if (!sound) {
      setText(String(start.current));
      onTry(start.current);
    }
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
        // What is no number that can be kept is not tried, and what was tried before it is shown no more.
        onTry(wholeOf(event.target.value, min, max) ?? start.current);
      }}
      onBlur={keep}
      onKeyDown={press}
      sx={{ width }}
      slotProps={{
        htmlInput: {
          "aria-label": label,
          min,
          max,
          step: 1,
          style: { padding: "3px 8px", textAlign: "right" },
        },
      }}
    />
  );
});
