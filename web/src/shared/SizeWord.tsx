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
  return (
    <TextWord
      {...rest}
      value={value == null ? "" : String(value)}
      onKeep={async (text) => {
        if (text.trim() === "") return onKeep(null);
        const read = await readTyped("size", text, value ?? null);
        return "why" in read ? read.why : onKeep(read.value);
      }}
    />
  );
}
