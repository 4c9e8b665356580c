import { useRef } from "react";
import { readTyped } from "../api/typed";

type Read = NonNullable<Parameters<typeof readTyped>[2]>;

/**
 * Keeps what was typed once the core has read it; gives why where it cannot be read.
 *
 * While a text is read, other fields of the same entry may change: what is called then is the newest `onKeep`, which knows of
 * them.
 */
export function useTypedKeep(
  kind: "size" | "number" | "speed" | "duration" | "date",
  before: Read | null,
  onKeep: (read: string) => Promise<boolean>,
): (text: string) => Promise<boolean | string> {
  const newest = useRef(onKeep);
  newest.current = onKeep;
  return async (text) => {
    const read = await readTyped(kind, text, before);
    return "why" in read ? read.why : newest.current(String(read.value));
  };
}
