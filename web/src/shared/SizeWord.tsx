import { useRef } from "react";
import { readTyped } from "../api/typed";
import { TextWord } from "./TextWord";

type Size = string | number;

interface Props {
  label: string;
  value: Size | null | undefined;
  disabled: boolean;
  /** The size as it stands in a document; null where the field was emptied. */
  onKeep: (size: Size | null) => Promise<boolean>;
  placeholder?: string;
  width?: number;
}

/** A size in a sentence, typed as people write it; a bare number takes the unit that stood there. */
export function SizeWord({ value, onKeep, ...rest }: Props) {
  // While the text is read, other fields of the same entry may change: what keeps it then is what knows of them.
  const newest = useRef(onKeep);
  newest.current = onKeep;
  return (
    <TextWord
      {...rest}
      value={value == null ? "" : String(value)}
      onKeep={async (text) => {
        if (text.trim() === "") return newest.current(null);
        const read = await readTyped("size", text, value ?? null);
        return "why" in read ? read.why : newest.current(read.value);
      }}
    />
  );
}
