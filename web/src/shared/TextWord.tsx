import { TextField } from "@mui/material";
import { memo, useContext, useRef, useState } from "react";
import { RefusalContext } from "../design/refusal";
import { useSteady } from "./useSteady";

interface Props {
  label: string;
  value: string;
  disabled: boolean;
  /**
   * What was typed, when the hand leaves the field or on Enter. False, or why, when it was refused: the text then stays to be
   * mended, with the reason beside it.
   */
  onKeep: (text: string) => Promise<boolean | string> | undefined;
  width?: number;
  placeholder?: string;
  /** A name in the serif of headings, without a frame. */
  heading?: boolean;
  /** Without a frame until it is pointed at. */
  quiet?: boolean;
  align?: "left" | "right";
}

/** A word of a sentence that is typed. Escape takes it back. */
export function TextWord({ onKeep, ...word }: Props) {
  return <Typed {...word} onKeep={useSteady(onKeep)} />;
}

/** The word as it is drawn: not anew while a sentence around it says the same in this place. */
const Typed = memo(function Typed({
  label,
  value,
  disabled,
  onKeep,
  width = 96,
  placeholder,
  heading,
  quiet,
  align,
}: Props) {
  // Null while nothing is typed: the word then is its value, in the very moment that this arrives.
  const [typed, setTyped] = useState<string | null>(null);
  const [why, setWhy] = useState<string | null>(null);
  const whyRefused = useContext(RefusalContext);
  const asked = useRef<string | null>(null);
  const takeBack = () => {
    setTyped(null);
    setWhy(null);
  };
  const keep = async () => {
    if (typed === null || typed === value) return takeBack();
    if (typed === asked.current) return; // Enter, and then away before the answer
    asked.current = typed;
    // A value that is refused goes back to what it was: what was typed stays all the same, to be mended.
    const kept = await onKeep(typed);
    asked.current = null;
    setWhy(typeof kept === "string" ? kept : kept === false ? whyRefused() : null);
    // What was saved may be written in another way than it was typed; what has been typed since stays.
    if (kept === true) setTyped((now) => (now === typed ? null : now));
  };
  return (
    <TextField
      variant={heading ? "standard" : "outlined"}
      value={typed ?? value}
      disabled={disabled}
      error={why !== null}
      helperText={
        why === null ? undefined : (
          <span role="alert" key={why} ref={hungInSight}>
            {why || "This was not saved"}
          </span>
        )
      }
      {...(placeholder === undefined ? {} : { placeholder })}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={() => void keep()}
      onKeyDown={(event) => {
        if (event.key === "Enter") void keep();
        if (event.key === "Escape") takeBack();
      }}
      sx={{ width, ...(quiet ? QUIET : {}), ...(why === null ? {} : REFUSED) }}
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
});

/** Hangs a reason from the right end of its word where it would reach out of its part of the page. */
function hungInSight(reason: HTMLElement | null): void {
  const box = reason?.parentElement;
  if (!box) return;
  const room = (box.closest("main") ?? document.documentElement).getBoundingClientRect().right;
  const reachesOut = box.getBoundingClientRect().right > room;
  box.style.left = reachesOut ? "auto" : "0";
  box.style.right = reachesOut ? "0" : "auto";
}

const QUIET = {
  "& .MuiOutlinedInput-notchedOutline": { borderColor: "transparent" },
  "& .MuiInputBase-input": { color: "text.secondary", pl: "2px !important" },
};

/** The reason hangs below the word, over what stands there: nothing moves away under the hand. */
const REFUSED = {
  "& .MuiFormHelperText-root": {
    position: "absolute",
    top: "100%",
    zIndex: 1,
    mx: 0,
    mt: "2px",
    px: 0.75,
    width: "max-content",
    maxWidth: 320,
    overflowWrap: "anywhere",
    bgcolor: "background.paper",
    border: 1,
    borderColor: "error.main",
    borderRadius: 1,
  },
};
