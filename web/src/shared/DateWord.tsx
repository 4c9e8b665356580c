import { TextWord } from "./TextWord";
import { useTypedKeep } from "./useTypedKeep";

interface Props {
  label: string;
  value: string | null | undefined;
  disabled: boolean;
  /** The date as it stands in a document; null where the field was emptied. */
  onKeep: (day: string | null) => Promise<boolean>;
  placeholder?: string;
}

/** A date in a sentence, shown as ISO 8601 has it and typed as people write it: 2027-03-31, 31 March 2027. */
export function DateWord({ value, onKeep, placeholder = "no date", ...rest }: Props) {
  const keep = useTypedKeep("date", null, onKeep);
  return (
    <TextWord
      {...rest}
      placeholder={placeholder}
      width={112}
      value={value ?? ""}
      onKeep={(text) => (text.trim() === "" ? onKeep(null) : keep(text))}
    />
  );
}
