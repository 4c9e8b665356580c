import { Box, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import { type ScaleLinear, scaleLinear } from "d3-scale";
import { area, line } from "d3-shape";
import type { Band, Days, DetailSeries, Series } from "../../api/types";
import { useDesign } from "../../design/context";
import { bytesText, countText, exactBytesText, writtenDate } from "../../shared/format";
import { useWidth } from "../../shared/useWidth";
import type { Strip } from "./OneTarget";
import { ByteTicks, ReadableChart } from "./ReadableChart";
import { useReading } from "./useReading";
import { type Span, spanOf } from "./useSpan";
import { YearTicks } from "./YearTicks";

const LEFT = 62;
const RIGHT = 8;
const BYTES = { top: 10, bottom: 158 };
const BELOW = { top: 174, bottom: 216 };
const HEIGHT = 234;
/** What stands below the chart never moves what is below it. */
const TWO_LINES = { minHeight: "2.9em", lineHeight: 1.4 };

interface Props {
  series: DetailSeries;
  reference: Series | undefined;
  band: Band | undefined;
  fullOn: string | null;
  /** What stays from a day on if every rule were cut then: the place of the day, and bytes of each day from there. */
  held: { first: number; stored_bytes: number[]; locked_bytes: number[] } | undefined;
  strip: Strip;
  onSpan: (span: Span) => void;
}

/** Bytes of one target through time, with its room, its band, what nobody can free, and a strip below. Values are read
 * with the pointer or the arrow keys; a stretch that is drawn over is shown larger. */
export function DetailChart({ series, reference, band, fullOn, held, strip, onSpan }: Props) {
  const { days, place } = useDesign();
  const { inks } = useTheme();
  const [ref, width] = useWidth<HTMLDivElement>(600);
  const first = series.places[0] ?? 0;
  const last = series.places.at(-1) ?? 1;
  const x = scaleLinear([first, last], [LEFT, width - RIGHT]).clamp(true);
  const inSight = (at: number) => at >= first && at <= last;
  const seen = band ? band.peak_day_high.filter((_, at) => inSight(band.places[at] ?? 0)) : [];
  const top = Math.max(
    1,
    ...series.peak_bytes,
    ...(reference?.peak_bytes ?? []),
    ...(series.room_bytes ?? []),
    ...seen,
  );
  const y = scaleLinear([0, top], [BYTES.bottom, BYTES.top]).nice(4);
  const values = { points: series.points, moved: series.moved_bytes, logical: series.logical_bytes }[strip];
  const n = scaleLinear([0, Math.max(1, ...values)], [BELOW.bottom, BELOW.top]);
  const inWords = strip === "points" ? countText : bytesText;
  const reading = useReading(series.places, place, x);
  const { at } = reading;
  const heldInSight = (held?.stored_bytes ?? [])
    .map((bytes, day) => ({ day: (held?.first ?? 0) + day, bytes }))
    .filter((one) => inSight(one.day));
  return (
    <Box ref={ref}>
      <ReadableChart
        width={width}
        height={HEIGHT}
        label="Bytes and points through time"
        reading={reading}
        onStretch={(from, to) => onSpan(spanOf(days, from, to))}
      >
        <ByteTicks y={y} left={LEFT} right={width - RIGHT} />
        <YearTicks x={x} days={days} top={BELOW.bottom} />
        {band && (
          <path data-testid="band" d={bandPath(band, first, last, x, y)} fill={inks.ramp[1]} opacity={0.4} />
        )}
        <path d={under(series.places, series.stored_bytes, x, y)} fill={inks.ramp[2]} opacity={0.5} />
        {heldInSight.some((one) => one.bytes > 0) && (
          <path
            data-testid="held"
            d={under(
              heldInSight.map((one) => one.day),
              heldInSight.map((one) => one.bytes),
              x,
              y,
            )}
            fill={inks.brass}
            opacity={0.55}
          />
        )}
        {series.least_bytes.some((bytes) => bytes > 0) && (
          <path
            data-testid="least"
            d={along(series.places, series.least_bytes, x, y)}
            fill="none"
            stroke={inks.brass}
            strokeWidth={1}
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
          strokeWidth={1.4}
        />
        {series.room_bytes && (
          <path
            d={along(series.places, series.room_bytes, x, y)}
            fill="none"
            stroke={inks.brick}
            strokeDasharray="6 4"
          />
        )}
        {fullOn && inSight(days.dates.indexOf(fullOn)) && (
          <FullFlag at={x(days.dates.indexOf(fullOn))} width={width} />
        )}
        <path d={along(series.places, values, x, n)} fill="none" stroke={inks.ink} strokeWidth={1.1} />
        <text x={LEFT - 8} y={BELOW.top + 4} textAnchor="end" dominantBaseline="central" fill={inks.muted}>
          {inWords(n.domain()[1] ?? 0)}
        </text>
        <text x={LEFT - 8} y={BELOW.bottom} textAnchor="end" dominantBaseline="central" fill={inks.muted}>
          {{ points: "points", moved: "moved", logical: "stand for" }[strip]}
        </text>
        {inSight(place) && (
          <line x1={x(place)} x2={x(place)} y1={BYTES.top} y2={BELOW.bottom} stroke={inks.ink} />
        )}
        {reading.isReading && (
          <line
            x1={x(series.places[at] ?? 0)}
            x2={x(series.places[at] ?? 0)}
            y1={BYTES.top}
            y2={BELOW.bottom}
            stroke={inks.plum}
            strokeDasharray="1 2"
          />
        )}
      </ReadableChart>
      {reading.isReading ? (
        <Reading series={series} at={at} days={days} />
      ) : (
        <Legend
          hasReference={reference !== undefined}
          hasRoom={series.room_bytes !== null}
          band={band}
          held={held}
          on={days.dates[place] ?? ""}
        />
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

function bandPath(band: Band, first: number, last: number, x: X, y: X): string {
  const inSight = band.places
    .map((day, at) => ({ day, low: band.peak_day_low[at] ?? 0, high: band.peak_day_high[at] ?? 0 }))
    .filter((one) => one.day >= first && one.day <= last);
  const shape = area<(typeof inSight)[number]>()
    .x((one) => x(one.day))
    .y0((one) => y(one.low))
    .y1((one) => y(one.high));
  return shape(inSight) ?? "";
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

interface LegendProps {
  hasReference: boolean;
  hasRoom: boolean;
  band: Band | undefined;
  held: Props["held"];
  on: string;
}

function Legend({ hasReference, hasRoom, band, held, on }: LegendProps) {
  const now = held?.stored_bytes[0] ?? 0;
  const locked = held?.locked_bytes[0] ?? 0;
  return (
    <Typography variant="body2" color="textSecondary" sx={TWO_LINES}>
      Line: peak of each day; tint: stored at its end{hasRoom ? "; dashes: room" : ""}
      {hasReference ? "; dots: peak at the reference" : ""}
      {band ? "; pale: eight of ten draws" : ""}
      {now > 0
        ? `; brass: ${bytesText(now)} that nobody could free on ${writtenDate(on)}${ofWhich(now, locked)}`
        : ""}
      .
    </Typography>
  );
}

/** How much of what cannot be freed a lock holds, where the rest is only billed for its minimum stay. */
function ofWhich(held: number, locked: number): string {
  if (locked >= held) return " (locked)";
  return locked > 0 ? ` (${bytesText(locked)} locked, the rest only billed)` : " (not locked, only billed)";
}

/** The exact values of the day that is read. */
function Reading({ series, at, days }: { series: DetailSeries; at: number; days: Days }) {
  const room = series.room_bytes?.[at];
  const least = series.least_bytes[at] ?? 0;
  const locked = series.locked_bytes[at] ?? 0;
  return (
    <Typography variant="body2" color="textSecondary" aria-live="polite" data-testid="reading" sx={TWO_LINES}>
      {writtenDate(days.dates[series.places[at] ?? 0] ?? "")}: {exactBytesText(series.stored_bytes[at] ?? 0)}{" "}
      stored, peak {exactBytesText(series.peak_bytes[at] ?? 0)}, {countText(series.points[at] ?? 0)} points
      for {exactBytesText(series.logical_bytes[at] ?? 0)}, {exactBytesText(series.moved_bytes[at] ?? 0)} moved
      {room === undefined ? "" : `, room for ${exactBytesText(Math.max(0, room))}`}
      {least > 0 ? `, ${exactBytesText(least)} cannot be freed${ofWhich(least, locked)}` : ""}
    </Typography>
  );
}
