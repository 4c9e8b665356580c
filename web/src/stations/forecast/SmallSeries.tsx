import { useTheme } from "@mui/material/styles";
import { area, line } from "d3-shape";
import { memo } from "react";
import type { Band, Series } from "../../api/types";
import { useDesign } from "../../design/context";

const WIDTH = 400;
const HEIGHT = 63;

interface Props {
  series: Series;
  band?: Band | undefined;
  /** The bytes at the upper edge, to compare with another. */
  top?: number | undefined;
}

/** Peak and stored bytes of a target against its room, small. */
export function SmallSeries({ series, band, top }: Props) {
  const { days, place } = useDesign();
  const { inks } = useTheme();
  const last = Math.max(1, days.dates.length - 1);
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      width="100%"
      height={HEIGHT}
      preserveAspectRatio="none"
      aria-hidden="true"
    >
      <Curves series={series} band={band} top={top} last={last} />
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

/** What does not move with the as-of date. */
const Curves = memo(function Curves({ series, band, top: wanted = 0, last }: Props & { last: number }) {
  const { inks } = useTheme();
  // A band may reach far past what is expected; what is expected stays readable.
  const expected = Math.max(1, wanted, ...series.peak_bytes, ...(series.room_bytes ?? []));
  const top = Math.min(2 * expected, Math.max(expected, ...(band?.peak_day_high ?? [])));
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
    <>
      {band && <path d={between(band, last, top)} fill={inks.ramp[1]} opacity={0.45} />}
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
    </>
  );
});

function between(band: Band, last: number, top: number): string {
  const y = (bytes: number) => HEIGHT - 2 - (HEIGHT - 6) * Math.min(1, bytes / top);
  const shape = area<number>()
    .x((_, at) => (WIDTH * (band.places[at] ?? 0)) / last)
    .y0((_, at) => y(band.peak_day_low[at] ?? 0))
    .y1((high) => y(high));
  return shape(band.peak_day_high) ?? "";
}
