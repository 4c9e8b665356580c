import { useTheme } from "@mui/material/styles";
import { type ScaleLinear, scaleLinear } from "d3-scale";
import type { SVGProps } from "react";
import type { Chart, DayMark } from "../../api/types";
import { bytesText } from "../../shared/format";

export type Scale = ScaleLinear<number, number>;

/** Where a chart lies within its drawing, in pixels. */
export interface Area {
  left: number;
  right: number;
  top: number;
  bottom: number;
}

const SIDE = 1000;
/** The side of the box in which the shapes of a chart are given. */

/** From places of days and from amounts to pixels. What has to be seen as well may raise the upper edge; the chart itself
 * stays readable where that would raise it beyond `most` times its own. */
export function scalesOf(
  chart: Chart,
  box: Area,
  beside: readonly number[] = [],
  most = 2,
): { x: Scale; y: Scale } {
  const top = Math.min(most * chart.top, Math.max(chart.top, ...beside));
  return {
    x: scaleLinear([chart.first, Math.max(chart.first + 1, chart.last)], [box.left, box.right]).clamp(true),
    y: scaleLinear([0, top], [box.bottom, box.top]).clamp(true),
  };
}

interface ShapesProps {
  chart: Chart;
  box: Area;
  y: Scale;
  /** How the shape with a name and a place among all of them is painted; null where it is not drawn. */
  look: (name: string, at: number) => SVGProps<SVGPathElement> | null;
}

/** The lines and areas of a chart as the core gives them, stretched into a box. */
export function Shapes({ chart, box, y, look }: ShapesProps) {
  const high = (SIDE * (y.domain()[1] ?? chart.top)) / chart.top;
  return (
    <svg
      x={box.left}
      y={box.top}
      width={box.right - box.left}
      height={box.bottom - box.top}
      viewBox={`0 ${SIDE - high} ${SIDE} ${high}`}
      preserveAspectRatio="none"
      overflow="visible"
      aria-hidden="true"
    >
      {chart.shapes.map(({ name, path }, at) => {
        const painted = look(name, at);
        // biome-ignore lint/suspicious/noArrayIndexKey: two parts may have the same name; their order is what tells them apart
        return painted && <path key={at} d={path} vectorEffect="non-scaling-stroke" {...painted} />;
      })}
    </svg>
  );
}

const MOST_MARKS = 8;

/** Hairlines at the round amounts of a chart, and beyond them where more is in sight. */
export function AmountMarks({
  chart,
  y,
  box,
  inWords = bytesText,
}: {
  chart: Chart;
  y: Scale;
  box: Area;
  inWords?: (value: number) => string;
}) {
  const { inks } = useTheme();
  const step = chart.marks[1] ?? chart.top;
  const steps = Math.floor((y.domain()[1] ?? chart.top) / step + 1e-9);
  const apart = Math.ceil(steps / MOST_MARKS);
  return (
    <g>
      {Array.from({ length: Math.floor(steps / apart) + 1 }, (_, at) => at * apart * step).map((value) => (
        <g key={value}>
          <line x1={box.left} x2={box.right} y1={y(value)} y2={y(value)} stroke={inks.hairline} />
          <text x={box.left - 8} y={y(value)} textAnchor="end" dominantBaseline="central" fill={inks.muted}>
            {inWords(value)}
          </text>
        </g>
      ))}
    </g>
  );
}

/** The days that a chart names along its foot. */
export function DayMarks({ marks, x, top }: { marks: readonly DayMark[]; x: Scale; top: number }) {
  const { inks } = useTheme();
  return (
    <g>
      {marks.map(({ place, text }) => (
        <g key={place}>
          <line x1={x(place)} x2={x(place)} y1={top} y2={top + 4} stroke={inks.muted} />
          <text x={x(place) + 2} y={top + 15} fill={inks.muted}>
            {text}
          </text>
        </g>
      ))}
    </g>
  );
}
