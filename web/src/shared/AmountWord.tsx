import { useRef } from "react";
import { readTyped } from "../api/typed";
import { TextWord } from "./TextWord";

interface Props {
  label: string;
  value: number;
  disabled: boolean;
  onKeep: (value: number) => Promise<boolean>;
  width?: number;
}

/** A number with decimals in a sentence: a percentage or a price. */
export function AmountWord({ label, value, disabled, onKeep, width = 64 }: Props) {
  // While the text is read, other fields of the same entry may change: what keeps it then is what knows of them.
  const newest = useRef(onKeep);
  newest.current = onKeep;
  return (
    <TextWord
      label={label}
      value={String(value)}
      disabled={disabled}
      width={width}
      align="right"
      onKeep={async (text) => {
        const read = await readTyped("number", text);
        return "why" in read ? read.why : newest.current(Number(read.value));
      }}
    />
  );
}
