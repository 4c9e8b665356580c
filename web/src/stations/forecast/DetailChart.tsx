import { Box } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import { type ScaleLinear, scaleLinear } from "d3-scale";
import { area, line } from "d3-shape";
import type { Band } from "../../api/types";
import { useDesign } from "../../design/context";
import { bytesText, countText } from "../../shared/format";
import { useWidth } from "../../shared/useWidth";
import { FullFlag, Legend, Reading } from "./DetailLegend";
import { BELOW, BYTES, HEIGHT, LEFT, type Props, RIGHT } from "./detailLayout";
import { ByteTicks, ReadableChart } from "./ReadableChart";
import { useReading } from "./useReading";
import { spanOf } from "./useSpan";
import { YearTicks } from "./YearTicks";

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
  const y = scaleLinear([0, highest({ series, reference, band }, inSight)], [BYTES.bottom, BYTES.top]).nice(
    4,
  );
  const reading = useReading(series.places, place, x);
  const { at } = reading;
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
        {held && <Held held={held} inSight={inSight} x={x} y={y} />}
        <Beside series={series} reference={reference} x={x} y={y} />
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
        <StripBelow series={series} strip={strip} x={x} />
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
type InSight = (day: number) => boolean;

/** The largest number of bytes that is drawn. */
function highest(
  { series, reference, band }: Pick<Props, "series" | "reference" | "band">,
  inSight: InSight,
): number {
  const high = band ? band.peak_day_high.filter((_, at) => inSight(band.places[at] ?? 0)) : [];
  return Math.max(
    1,
    ...series.peak_bytes,
    ...(reference?.peak_bytes ?? []),
    ...(series.room_bytes ?? []),
    ...high,
  );
}

/** The least that must stay, and the peak of the reference. */
function Beside({ series, reference, x, y }: Pick<Props, "series" | "reference"> & { x: X; y: X }) {
  const { inks } = useTheme();
  return (
    <>
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
    </>
  );
}

/** What nobody can free from the as-of date on. */
function Held({ held, inSight, x, y }: { held: NonNullable<Props["held"]>; inSight: InSight; x: X; y: X }) {
  const { inks } = useTheme();
  const seen = held.stored_bytes
    .map((bytes, at) => ({ day: held.first + at, bytes }))
    .filter((one) => inSight(one.day));
  if (!seen.some((one) => one.bytes > 0)) return null;
  const [days, bytes] = [seen.map((one) => one.day), seen.map((one) => one.bytes)];
  return <path data-testid="held" d={under(days, bytes, x, y)} fill={inks.brass} opacity={0.55} />;
}

const STRIP_WORDS = { points: "points", moved: "moved", logical: "stand for" };

/** Points, or what is moved or stood for, below the bytes. */
function StripBelow({ series, strip, x }: Pick<Props, "series" | "strip"> & { x: X }) {
  const { inks } = useTheme();
  const values = { points: series.points, moved: series.moved_bytes, logical: series.logical_bytes }[strip];
  const n = scaleLinear([0, Math.max(1, ...values)], [BELOW.bottom, BELOW.top]);
  const inWords = strip === "points" ? countText : bytesText;
  const label = { x: LEFT - 8, textAnchor: "end", dominantBaseline: "central", fill: inks.muted } as const;
  return (
    <>
      <path d={along(series.places, values, x, n)} fill="none" stroke={inks.ink} strokeWidth={1.1} />
      <text {...label} y={BELOW.top + 4}>
        {inWords(n.domain()[1] ?? 0)}
      </text>
      <text {...label} y={BELOW.bottom}>
        {STRIP_WORDS[strip]}
      </text>
    </>
  );
}

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
