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
  return (
    <TextWord
      label={label}
      value={String(value)}
      disabled={disabled}
      width={width}
      align="right"
      onKeep={async (text) => {
        const read = await readTyped("number", text);
        return "why" in read ? read.why : onKeep(Number(read.value));
      }}
    />
  );
}
