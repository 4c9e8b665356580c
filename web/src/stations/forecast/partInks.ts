import type { Inks } from "../../theme/palette";

/** States have the inks of their spines; other parts go down the ramp and then through the other inks. */
export function inkOf(name: string, number: number, inks: Inks): string {
  const states: Record<string, string> = {
    kept: inks.ramp[4] ?? inks.plum,
    locked: inks.brass,
    needed: inks.slate,
    due: inks.hairline,
  };
  const others = [
    inks.ramp[5],
    inks.brass,
    inks.ramp[2],
    inks.moss,
    inks.slate,
    inks.ramp[3],
    inks.brick,
    inks.muted,
  ];
  return states[name] ?? others[number % others.length] ?? inks.plum;
}
