import { useTheme } from "@mui/material";
import type { ScaleLinear } from "d3-scale";
import type { Days } from "../../api/types";

/** The first days of years along the foot of a chart, ten at the most. */
export function YearTicks({ x, days, top }: { x: ScaleLinear<number, number>; days: Days; top: number }) {
  const { inks } = useTheme();
  const years = days.month_begins.filter((begin) => days.dates[begin]?.slice(5, 7) === "01");
  const step = Math.ceil(years.length / 10);
  return (
    <g>
      {years
        .filter((_, at) => at % step === 0)
        .map((begin) => (
          <g key={begin}>
            <line x1={x(begin)} x2={x(begin)} y1={top} y2={top + 4} stroke={inks.muted} />
            <text x={x(begin) + 2} y={top + 15} fill={inks.muted}>
              {days.dates[begin]?.slice(0, 4)}
            </text>
          </g>
        ))}
    </g>
  );
}
