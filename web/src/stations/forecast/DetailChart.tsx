import { Box } from "@mui/material";
import { type Theme, useTheme } from "@mui/material/styles";
import type { ScaleLinear } from "d3-scale";
import { area, line } from "d3-shape";
import type { SVGProps } from "react";
import type { Band, Chart } from "../../api/types";
import { useDesign } from "../../design/context";
import { bytesText, countText } from "../../shared/format";
import { useWidth } from "../../shared/useWidth";
import { FullFlag, Legend, Reading } from "./DetailLegend";
import { BELOW, BYTES, HEIGHT, LEFT, type Props, RIGHT } from "./detailLayout";
import { ReadableChart } from "./ReadableChart";
import { AmountMarks, type Area, DayMarks, Shapes, scalesOf } from "./Shapes";
import { useReading } from "./useReading";
import { spanOf } from "./useSpan";

/** Bytes of one target through time, with its room, its band, what nobody can free, and a strip below. Values are read
 * with the pointer or the arrow keys; a stretch that is drawn over is shown larger. */
export function DetailChart({ series, charts, reference, band, fullOn, held, strip, onSpan }: Props) {
  const { days, place } = useDesign();
  const { inks } = useTheme();
  const [ref, width] = useWidth<HTMLDivElement>(600);
  const chart = charts.bytes;
  const inSight = (at: number) => at >= chart.first && at <= chart.last;
  const box = { left: LEFT, right: width - RIGHT, ...BYTES };
  const { x, y } = scalesBeside(chart, box, reference, bandIn(band, inSight));
  const reading = useReading(series.places, place, x);
  const { at } = reading;
  const full = fullOn === null ? -1 : days.dates.indexOf(fullOn);
  return (
    <Box ref={ref}>
      <ReadableChart
        width={width}
        height={HEIGHT}
        label="Bytes and points through time"
        reading={reading}
        onStretch={(from, to) => onSpan(spanOf(days, from, to))}
      >
        <AmountMarks chart={chart} y={y} box={box} />
        <DayMarks marks={chart.days} x={x} top={BELOW.bottom} />
        {band && (
          <path data-testid="band" d={bandPath(band, inSight, x, y)} fill={inks.ramp[1]} opacity={0.4} />
        )}
        <Shapes
          chart={chart}
          box={box}
          y={y}
          look={(name) => (name === "stored" ? { fill: inks.ramp[2], opacity: 0.5 } : null)}
        />
        {held && <Held held={held} inSight={inSight} x={x} y={y} />}
        {reference && (
          <path
            d={along(reference.places, reference.peak_bytes, x, y)}
            fill="none"
            stroke={inks.muted}
            strokeDasharray="2 3"
          />
        )}
        <Shapes chart={chart} box={box} y={y} look={(name) => LINES(inks)[name] ?? null} />
        {inSight(full) && <FullFlag at={x(full)} width={width} />}
        <StripBelow charts={charts} strip={strip} width={width} />
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

/** What the chart is compared with is seen whole, whatever it does to the rest; a band is cut off sooner. */
function scalesBeside(chart: Chart, box: Area, reference: Props["reference"], band: number[]) {
  const compared = reference?.peak_bytes ?? [];
  return scalesOf(chart, box, [...compared, ...band], 2 * Math.max(1, Math.max(0, ...compared) / chart.top));
}

/** How the lines of the chart are painted; the area stands below them. */
const LINES = (inks: Theme["inks"]): Record<string, SVGProps<SVGPathElement>> => ({
  least: { fill: "none", stroke: inks.brass, strokeWidth: 1 },
  peak: { fill: "none", stroke: inks.plum, strokeWidth: 1.4 },
  room: { fill: "none", stroke: inks.brick, strokeDasharray: "6 4" },
});

/** The upper edge of a band on the days in sight. */
function bandIn(band: Band | undefined, inSight: InSight): number[] {
  return band ? band.peak_day_high.filter((_, at) => inSight(band.places[at] ?? 0)) : [];
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
function StripBelow({ charts, strip, width }: Pick<Props, "charts" | "strip"> & { width: number }) {
  const { inks } = useTheme();
  const chart = charts[strip];
  const box = { left: LEFT, right: width - RIGHT, ...BELOW };
  const { y } = scalesOf(chart, box);
  const inWords = strip === "points" ? countText : bytesText;
  const label = { x: LEFT - 8, textAnchor: "end", dominantBaseline: "central", fill: inks.muted } as const;
  return (
    <>
      <Shapes
        chart={chart}
        box={box}
        y={y}
        look={() => ({ fill: "none", stroke: inks.ink, strokeWidth: 1.1 })}
      />
      <text {...label} y={BELOW.top + 4}>
        {inWords(chart.top)}
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

function bandPath(band: Band, inSight: InSight, x: X, y: X): string {
  const seen = band.places
    .map((day, at) => ({ day, low: band.peak_day_low[at] ?? 0, high: band.peak_day_high[at] ?? 0 }))
    .filter((one) => inSight(one.day));
  const shape = area<(typeof seen)[number]>()
    .x((one) => x(one.day))
    .y0((one) => y(one.low))
    .y1((one) => y(one.high));
  return shape(seen) ?? "";
}
