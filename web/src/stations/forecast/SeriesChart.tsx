import { Box, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import { type ScaleLinear, scaleLinear } from "d3-scale";
import { area, line } from "d3-shape";
import type { Days, Series } from "../../api/types";
import { useDesign } from "../../design/context";
import { bytesText, countText, writtenDate } from "../../shared/format";
import { useWidth } from "../../shared/useWidth";
import { ByteTicks, ReadableChart } from "./ReadableChart";
import { useReading } from "./useReading";
import { YearTicks } from "./YearTicks";

const LEFT = 62;
const RIGHT = 8;
const BYTES = { top: 10, bottom: 168 };
const POINTS = { top: 184, bottom: 232 };
const HEIGHT = 250;

interface Props {
  series: Series;
  reference: Series | undefined;
  fullOn: string | null;
  /** What locks hold from a day on if every rule were cut then: the place of the day, and bytes of each day from there. */
  held: { first: number; stored_bytes: number[] } | undefined;
}

/** Bytes and points of one target through the years, with its room and the day it is full. Values can be read with the
 * pointer or the arrow keys. */
export function SeriesChart({ series, reference, fullOn, held }: Props) {
  const { days, place } = useDesign();
  const { inks } = useTheme();
  const [ref, width] = useWidth<HTMLDivElement>(600);
  const x = scaleLinear([0, days.dates.length - 1], [LEFT, width - RIGHT]);
  const top = Math.max(
    1,
    ...series.peak_bytes,
    ...(reference?.peak_bytes ?? []),
    ...(series.room_bytes ?? []),
  );
  const y = scaleLinear([0, top], [BYTES.bottom, BYTES.top]).nice(4);
  const n = scaleLinear([0, Math.max(1, ...series.points)], [POINTS.bottom, POINTS.top]);
  const reading = useReading(series.places, place, x);
  const { at } = reading;
  return (
    <Box ref={ref}>
      <ReadableChart width={width} height={HEIGHT} label="Bytes and points through time" reading={reading}>
        <ByteTicks y={y} left={LEFT} right={width - RIGHT} />
        <YearTicks x={x} days={days} top={POINTS.bottom} />
        <path d={under(series.places, series.stored_bytes, x, y)} fill={inks.ramp[2]} opacity={0.5} />
        {held?.stored_bytes.some((bytes) => bytes > 0) && (
          <path
            data-testid="held"
            d={under(
              held.stored_bytes.map((_, day) => held.first + day),
              held.stored_bytes,
              x,
              y,
            )}
            fill={inks.brass}
            opacity={0.55}
          />
        )}
        {reference && (
          <path
            d={along(reference.places, reference.peak_bytes, x, y)}
            fill="none"
            stroke={inks.muted}
            strokeDasharray="2 3"
          />
        )}
        <path
          d={along(series.places, series.peak_bytes, x, y)}
          fill="none"
          stroke={inks.plum}
          strokeWidth={1.5}
        />
        {series.room_bytes && (
          <path
            d={along(series.places, series.room_bytes, x, y)}
            fill="none"
            stroke={inks.brick}
            strokeDasharray="6 4"
          />
        )}
        {fullOn && <FullFlag at={x(days.dates.indexOf(fullOn))} width={width} />}
        <path d={along(series.places, series.points, x, n)} fill="none" stroke={inks.ink} strokeWidth={1.2} />
        <text x={LEFT - 8} y={POINTS.top + 4} textAnchor="end" dominantBaseline="central" fill={inks.muted}>
          {countText(n.domain()[1] ?? 0)}
        </text>
        <text x={LEFT - 8} y={POINTS.bottom} textAnchor="end" dominantBaseline="central" fill={inks.muted}>
          points
        </text>
        <line x1={x(place)} x2={x(place)} y1={BYTES.top} y2={POINTS.bottom} stroke={inks.ink} />
        {reading.isReading && (
          <line
            x1={x(series.places[at] ?? 0)}
            x2={x(series.places[at] ?? 0)}
            y1={BYTES.top}
            y2={POINTS.bottom}
            stroke={inks.plum}
            strokeDasharray="1 2"
          />
        )}
      </ReadableChart>
      {!reading.isReading ? (
        <Legend hasReference={reference !== undefined} held={held} on={days.dates[place] ?? ""} />
      ) : (
        <Reading series={series} at={at} days={days} />
      )}
    </Box>
  );
}

type X = ScaleLinear<number, number>;

function along(places: number[], values: number[], x: X, y: X): string {
  return (
    line<number>(
      (_, at) => x(places[at] ?? 0),
      (value) => y(Math.max(0, value)),
    )(values) ?? ""
  );
}

function under(places: number[], values: number[], x: X, y: X): string {
  return (
    area<number>(
      (_, at) => x(places[at] ?? 0),
      y(0),
      (value) => y(value),
    )(values) ?? ""
  );
}

function FullFlag({ at, width }: { at: number; width: number }) {
  const { inks } = useTheme();
  const right = at > width * 0.8;
  return (
    <g>
      <line x1={at} x2={at} y1={BYTES.top - 6} y2={BYTES.bottom} stroke={inks.brick} strokeWidth={1.5} />
      <text x={right ? at - 5 : at + 5} y={BYTES.top} textAnchor={right ? "end" : "start"} fill={inks.brick}>
        full
      </text>
    </g>
  );
}

function Legend({ hasReference, held, on }: { hasReference: boolean; held: Props["held"]; on: string }) {
  const now = held?.stored_bytes[0] ?? 0;
  return (
    <Typography variant="body2" color="textSecondary">
      Line: the peak of each day; tint: stored at its end; dashes: room
      {hasReference ? "; dots: peak at the reference" : ""}
      {now > 0
        ? `; brass: ${bytesText(now)} that nobody could free if every rule were cut on ${writtenDate(on)}`
        : ""}
      .
    </Typography>
  );
}

/** The exact values of the day that is read. */
function Reading({ series, at, days }: { series: Series; at: number; days: Days }) {
  const room = series.room_bytes?.[at];
  return (
    <Typography variant="body2" color="textSecondary" aria-live="polite">
      {writtenDate(days.dates[series.places[at] ?? 0] ?? "")}: {bytesText(series.stored_bytes[at] ?? 0)}{" "}
      stored, peak {bytesText(series.peak_bytes[at] ?? 0)}, {countText(series.points[at] ?? 0)} points
      {room === undefined ? "" : `, room for ${bytesText(Math.max(0, room))}`}
    </Typography>
  );
}
