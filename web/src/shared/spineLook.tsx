import type { Inks } from "../theme/palette";

export interface PatternNames {
  hatch: string;
  band: string;
}

/** Filled when kept, banded when locked, hatched when only needed by newer ones, hollow when due. */
export function spineLook(spine: { state: string; height: number }, inks: Inks, names: PatternNames) {
  if (spine.state === "locked") return { fill: `url(#${names.band})`, stroke: inks.brass, strokeWidth: 0.7 };
  if (spine.state === "needed") return { fill: `url(#${names.hatch})`, stroke: inks.slate, strokeWidth: 0.7 };
  if (spine.state === "due") return { fill: "none", stroke: inks.muted, strokeWidth: 1 };
  const fill = inks.ramp[spine.height] ?? inks.plum;
  return { fill, stroke: inks.surface, strokeWidth: 0.5 };
}

/** What banded and hatched spines are filled with, by ids of one drawing. */
export function SpinePatterns({ names, inks }: { names: PatternNames; inks: Inks }) {
  return (
    <defs>
      <pattern
        id={names.hatch}
        width="4"
        height="4"
        patternUnits="userSpaceOnUse"
        patternTransform="rotate(45)"
      >
        <rect width="4" height="4" fill={inks.surface} />
        <rect width="1.6" height="4" fill={inks.slate} />
      </pattern>
      <pattern id={names.band} width="4" height="5" patternUnits="userSpaceOnUse">
        <rect width="4" height="5" fill={inks.surface} />
        <rect width="4" height="3" fill={inks.brass} />
      </pattern>
    </defs>
  );
}
