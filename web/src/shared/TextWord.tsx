import { TextField } from "@mui/material";
import { useEffect, useRef, useState } from "react";

interface Props {
  label: string;
  value: string;
  disabled: boolean;
  /** What was typed, when the hand leaves the field or on Enter. False when it was refused: the text then stays to be mended. */
  onKeep: (text: string) => Promise<boolean> | undefined;
  width?: number;
  placeholder?: string;
  /** A name in the serif of headings, without a frame. */
  heading?: boolean;
  /** Without a frame until it is pointed at. */
  quiet?: boolean;
  type?: "text" | "date";
  align?: "left" | "right";
}

/** A word of a sentence that is typed. Escape takes it back. */
export function TextWord({
  label,
  value,
  disabled,
  onKeep,
  width = 96,
  placeholder,
  heading,
  quiet,
  type = "text",
  align,
}: Props) {
  const [text, setText] = useState(value);
  const [refused, setRefused] = useState(false);
  const typing = useRef(false);
  useEffect(() => {
    if (!typing.current) setText(value);
  }, [value]);
  const keep = async () => {
    if (text === value) {
      typing.current = false;
      return setRefused(false);
    }
    // A value that is refused goes back to what it was: what was typed stays all the same, to be mended.
    const isRefused = (await onKeep(text)) === false;
    typing.current = isRefused;
    setRefused(isRefused);
  };
  return (
    <TextField
      variant={heading ? "standard" : "outlined"}
      type={type}
      value={text}
      disabled={disabled}
      error={refused}
      {...(placeholder === undefined ? {} : { placeholder })}
      onChange={(event) => {
        typing.current = true;
        setText(event.target.value);
      }}
      onBlur={() => void keep()}
      onKeyDown={(event) => {
        if (event.key === "Enter") void keep();
        if (event.key === "Escape") {
          typing.current = false;
          setRefused(false);
          setText(value);
        }
      }}
      sx={{ width, ...(quiet ? QUIET : {}) }}
      slotProps={{
        htmlInput: {
          "aria-label": label,
          style: heading ? {} : { padding: "3px 8px", textAlign: align ?? "left" },
        },
        ...(heading
          ? { input: { sx: { fontFamily: '"Fraunces Variable", Georgia, serif', fontSize: 21 } } }
          : {}),
      }}
    />
  );
}

const QUIET = {
  "& .MuiOutlinedInput-notchedOutline": { borderColor: "transparent" },
  "& .MuiInputBase-input": { color: "text.secondary", pl: "2px !important" },
};
