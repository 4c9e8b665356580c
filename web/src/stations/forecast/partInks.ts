import type { Inks } from "../../theme/palette";

/** States have the inks of their spines; other parts inks that mean nothing but themselves. */
export function inkOf(name: string, number: number, inks: Inks): string {
  const states: Record<string, string> = {
    kept: inks.ramp[4] ?? inks.plum,
    locked: inks.brass,
    needed: inks.slate,
    due: inks.hairline,
  };
  return states[name] ?? inks.parts[number % inks.parts.length] ?? inks.plum;
}
