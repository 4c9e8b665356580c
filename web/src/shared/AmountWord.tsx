import { TextWord } from "./TextWord";
import { useTypedKeep } from "./useTypedKeep";

interface Props {
  label: string;
  value: number;
  disabled: boolean;
  onKeep: (value: number) => Promise<boolean>;
  width?: number;
}

/** A number with decimals in a sentence: a percentage or a price. */
export function AmountWord({ label, value, disabled, onKeep, width = 64 }: Props) {
  const keep = useTypedKeep("number", null, (read) => onKeep(Number(read)));
  return (
    <TextWord
      label={label}
      value={String(value)}
      disabled={disabled}
      width={width}
      align="right"
      onKeep={keep}
    />
  );
}
