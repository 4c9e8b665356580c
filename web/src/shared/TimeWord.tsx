import { useQuery } from "@tanstack/react-query";
import { keys } from "../api/keys";
import { readTyped } from "../api/typed";
import { wordsOfOne } from "./durations";
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
export function TimeWord({ value, onKeep, placeholder = "no time", width = 128, ...rest }: Props) {
  const keep = useTypedKeep("duration", value ?? null, onKeep);
  const words = useWords(value ?? null);
  return (
    <TextWord
      {...rest}
      placeholder={placeholder}
      width={width}
      value={words}
      onKeep={(text) => (text.trim() === "" ? onKeep(null) : text === words ? undefined : keep(text))}
    />
  );
}

/** A duration in words: the core says those of one that mixes units. */
function useWords(duration: string | null): string {
  const own = duration === null ? "" : wordsOfOne(duration);
  const { data } = useQuery({
    queryKey: keys.durationWords(duration),
    queryFn: () => readTyped("duration words", duration ?? ""),
    enabled: own === null,
    staleTime: Number.POSITIVE_INFINITY,
  });
  return own ?? (data && "value" in data ? String(data.value) : (duration ?? ""));
}
