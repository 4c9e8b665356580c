import { useTheme } from "@mui/material";
import type { ScaleLinear } from "d3-scale";
import type { ReactNode } from "react";
import { useDesign } from "../../design/context";
import { bytesText } from "../../shared/format";
import type { useReading } from "./useReading";

interface Props {
  width: number;
  height: number;
  label: string;
  reading: ReturnType<typeof useReading>;
  children: ReactNode;
}

/** A chart through time whose values are read with the pointer or the arrow keys; a click sets the as-of date. */
export function ReadableChart({ width, height, label, reading, children }: Props) {
  const { setPlace } = useDesign();
  return (
    <svg
      width={width}
      height={height}
      role="img"
      aria-label={`${label}; arrow keys read the values`}
      // biome-ignore lint/a11y/noNoninteractiveTabindex: the values are read with the arrow keys
      tabIndex={0}
      fontSize={12}
      onPointerMove={reading.follow}
      onPointerLeave={reading.leave}
      onClick={(event) => setPlace(reading.dayUnder(event))}
      onKeyDown={reading.press}
    >
      {children}
    </svg>
  );
}

/** Hairlines at round numbers of bytes, from `left` to `right`. */
export function ByteTicks({
  y,
  left,
  right,
}: {
  y: ScaleLinear<number, number>;
  left: number;
  right: number;
}) {
  const { inks } = useTheme();
  return (
    <g>
      {y.ticks(4).map((bytes) => (
        <g key={bytes}>
          <line x1={left} x2={right} y1={y(bytes)} y2={y(bytes)} stroke={inks.hairline} />
          <text x={left - 8} y={y(bytes)} textAnchor="end" dominantBaseline="central" fill={inks.muted}>
            {bytesText(bytes)}
          </text>
        </g>
      ))}
    </g>
  );
}
