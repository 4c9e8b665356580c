import { durationWords } from "./durations";
import { TextWord } from "./TextWord";
import { useTypedKeep } from "./useTypedKeep";

interface Props {
  label: string;
  value: string | null | undefined;
  disabled: boolean;
  /** The duration as it stands in a document; null where the field was emptied. */
  onKeep: (duration: string | null) => Promise<boolean>;
  placeholder?: string;
  width?: number;
}

/** A duration in a sentence that may be absent, typed as people write it: 20 min, 7 h 45 min. */
export function TimeWord({ value, onKeep, placeholder = "no time", width = 100, ...rest }: Props) {
  const keep = useTypedKeep("duration", value ?? null, onKeep);
  return (
    <TextWord
      {...rest}
      placeholder={placeholder}
      width={width}
      value={value == null ? "" : durationWords(value)}
      onKeep={(text) => (text.trim() === "" ? onKeep(null) : keep(text))}
    />
  );
}
