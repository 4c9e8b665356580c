import { useTheme } from "@mui/material/styles";
import { area, line } from "d3-shape";
import type { Series } from "../../api/types";
import { useDesign } from "../../design/context";

const WIDTH = 400;
const HEIGHT = 41;

/** Peak and stored bytes of a target against its room, small. */
export function SmallSeries({ series }: { series: Series }) {
  const { days, place } = useDesign();
  const { inks } = useTheme();
  const last = Math.max(1, days.dates.length - 1);
  const top = Math.max(1, ...series.peak_bytes, ...(series.room_bytes ?? []));
  const x = (at: number) => (WIDTH * (series.places[at] ?? 0)) / last;
  const y = (bytes: number) => HEIGHT - 2 - ((HEIGHT - 6) * bytes) / top;
  const stored = area<number>(
    (_, at) => x(at),
    HEIGHT - 2,
    (bytes) => y(bytes),
  )(series.stored_bytes);
  const peak = line<number>(
    (_, at) => x(at),
    (bytes) => y(bytes),
  )(series.peak_bytes);
  const room =
    series.room_bytes &&
    line<number>(
      (_, at) => x(at),
      (bytes) => y(Math.max(0, bytes)),
    )(series.room_bytes);
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      width="100%"
      height={HEIGHT}
      preserveAspectRatio="none"
      aria-hidden="true"
    >
      <path d={stored ?? ""} fill={inks.ramp[2]} opacity={0.55} />
      <path
        d={peak ?? ""}
        fill="none"
        stroke={inks.plum}
        strokeWidth={1.2}
        vectorEffect="non-scaling-stroke"
      />
      {room && (
        <path
          d={room}
          fill="none"
          stroke={inks.brick}
          strokeDasharray="4 3"
          vectorEffect="non-scaling-stroke"
        />
      )}
      <line
        x1={(WIDTH * place) / last}
        x2={(WIDTH * place) / last}
        y1={0}
        y2={HEIGHT}
        stroke={inks.ink}
        vectorEffect="non-scaling-stroke"
      />
    </svg>
  );
}
