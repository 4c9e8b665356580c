import { Choice } from "./Choice";

const UNSAID = "unsaid";
const OPTIONS: Record<string, string> = {
  [UNSAID]: "in its turn",
  "1": "1, first of all",
  ...Object.fromEntries(["2", "3", "4", "5", "6", "7", "8"].map((one) => [one, one])),
  "9": "9, last of all",
};

interface Props {
  label: string;
  value: number | null | undefined;
  disabled: boolean;
  onKeep: (priority: number | null) => void;
}

/** Which comes first where not all can have streams and rates at once: 1 to 9, or nothing said. */
export function PriorityWord({ label, value, disabled, onKeep }: Props) {
  const chosen = value == null ? UNSAID : String(value);
  return (
    <Choice
      label={label}
      value={chosen}
      options={chosen in OPTIONS ? OPTIONS : { ...OPTIONS, [chosen]: chosen }}
      disabled={disabled}
      onChange={(word) => onKeep(word === UNSAID ? null : Number(word))}
    />
  );
}
