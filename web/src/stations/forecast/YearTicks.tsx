import { useTheme } from "@mui/material";
import type { ScaleLinear } from "d3-scale";
import type { Days } from "../../api/types";

/** The first days of years, or of months where few years are in sight, along the foot of a chart. */
export function YearTicks({ x, days, top }: { x: ScaleLinear<number, number>; days: Days; top: number }) {
  const { inks } = useTheme();
  const [first, last] = x.domain() as [number, number];
  const inSight = days.month_begins.filter((begin) => begin >= first && begin <= last);
  const januaries = inSight.filter((begin) => days.dates[begin]?.slice(5, 7) === "01");
  // Where fewer than three years are in sight, their months are told apart.
  const byMonth = januaries.length < 3;
  const years = byMonth ? inSight : januaries;
  const step = Math.ceil(years.length / (byMonth ? 7 : 10));
  return (
    <g>
      {years
        .filter((_, at) => at % step === 0)
        .map((begin) => (
          <g key={begin}>
            <line x1={x(begin)} x2={x(begin)} y1={top} y2={top + 4} stroke={inks.muted} />
            <text x={x(begin) + 2} y={top + 15} fill={inks.muted}>
              {days.dates[begin]?.slice(0, byMonth ? 7 : 4)}
            </text>
          </g>
        ))}
    </g>
  );
}
