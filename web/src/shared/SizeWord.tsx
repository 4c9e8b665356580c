import { TextWord } from "./TextWord";
import { useTypedKeep } from "./useTypedKeep";

type Size = string | number;

interface Props {
  label: string;
  value: Size | null | undefined;
  disabled: boolean;
  /** The size as it stands in a document; null where the field was emptied. */
  onKeep: (size: string | null) => Promise<boolean>;
  placeholder?: string;
  width?: number;
}

/** A size in a sentence, typed as people write it; a bare number takes the unit that stood there. */
export function SizeWord({ value, onKeep, ...rest }: Props) {
  const keep = useTypedKeep("size", value ?? null, onKeep);
  return (
    <TextWord
      {...rest}
      value={value == null ? "" : String(value)}
      onKeep={(text) => (text.trim() === "" ? onKeep(null) : keep(text))}
    />
  );
}
