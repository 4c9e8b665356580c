import { TextWord } from "./TextWord";
import { useTypedKeep } from "./useTypedKeep";

type Speed = string | number;

interface Props {
  label: string;
  value: Speed | null | undefined;
  disabled: boolean;
  /** The speed as it stands in a document; null where the field was emptied. */
  onKeep: (speed: string | null) => Promise<boolean>;
  placeholder?: string;
  width?: number;
}

/** A speed in a sentence, typed in bytes or bits a second as people write it. */
export function SpeedWord({ value, onKeep, placeholder = "any speed", width = 100, ...rest }: Props) {
  const keep = useTypedKeep("speed", value ?? null, onKeep);
  return (
    <TextWord
      {...rest}
      placeholder={placeholder}
      width={width}
      value={value == null ? "" : String(value)}
      onKeep={(text) => (text.trim() === "" ? onKeep(null) : keep(text))}
    />
  );
}
