import { useTheme } from "@mui/material/styles";
import { AGE_TICKS, type Ages, WHOLE_AXIS, xOf } from "./ages";

/** Ages along the foot of a shelf; where a bundle is open, those of its ends. */
export function AgeTicks({ ages, width, height }: { ages: Ages; width: number; height: number }) {
  const { inks } = useTheme();
  const ticks: readonly { days: number; name: string }[] =
    ages === WHOLE_AXIS
      ? AGE_TICKS
      : [ages.oldest / 1.02, Math.sqrt(ages.oldest * ages.youngest), ages.youngest * 1.02].map((days) => ({
          days,
          name: `${days < 10 ? days.toFixed(1) : Math.round(days)} days`,
        }));
  return (
    <g>
      {ticks.map(({ days, name }) => (
        <g key={name}>
          <line
            x1={xOf(days, ages, width)}
            x2={xOf(days, ages, width)}
            y1={0}
            y2={height}
            stroke={inks.hairline}
          />
          <text x={xOf(days, ages, width)} y={height + 14} textAnchor="middle" fill={inks.muted}>
            {name}
          </text>
        </g>
      ))}
    </g>
  );
}
