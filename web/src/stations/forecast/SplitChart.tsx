import { Box, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import { line } from "d3-shape";
import { useMemo } from "react";
import type { Band, By, Chart, SplitSeries } from "../../api/types";
import { useDesign } from "../../design/context";
import { bytesText, countText, exactBytesText, writtenDate } from "../../shared/format";
import { Notice } from "../../shared/Notice";
import { useWidth } from "../../shared/useWidth";
import { ReadableChart } from "./ReadableChart";
import { AmountMarks, DayMarks, Shapes, scalesOf } from "./Shapes";
import { PartList, useLooks } from "./Stacked";
import { useReading } from "./useReading";
import type { Span } from "./useSpan";
import { useSplit } from "./useSplit";

const LEFT = 62;
const RIGHT = 8;
const TOP = 10;
const BOTTOM = 190;
const HEIGHT = 210;

interface Props {
  target: string;
  by: By;
  span: Span;
  band: Band | undefined;
}

/** What a target holds through the years, told apart; its parts add up to what is stored. Arrow keys read the values. */
export function SplitChart({ target, by, span, band }: Props) {
  const answer = useSplit(target, by, span);
  if (answer.error) return <Notice title="This cannot be told apart" error={answer.error} />;
  if (!answer.data) return <Notice title="Telling it apart…" />;
  return <Drawn split={answer.data.split} chart={answer.data.chart} band={band} />;
}

function Drawn({ split, chart, band }: { split: SplitSeries; chart: Chart; band: Band | undefined }) {
  const { days, place } = useDesign();
  const { inks } = useTheme();
  const [ref, width] = useWidth<HTMLDivElement>(600);
  const { places, parts } = split;
  const layers = useMemo(
    () => parts.map(({ name, stored_bytes }) => ({ name, values: stored_bytes })),
    [parts],
  );
  const box = { left: LEFT, right: width - RIGHT, top: TOP, bottom: BOTTOM };
  const inSight = bandBetween(band, chart.first, chart.last);
  const { x, y } = scalesOf(
    chart,
    box,
    inSight.map((one) => one.high),
  );
  const look = useLooks(layers);
  const edge = (of: "low" | "high") =>
    line<BandDay>(
      (one) => x(one.day),
      (one) => y(one[of]),
    )(inSight) ?? "";
  const reading = useReading(places, place, x);
  const { at } = reading;
  const inWords = reading.isReading ? exactBytesText : bytesText;
  return (
    <Box ref={ref}>
      <ReadableChart width={width} height={HEIGHT} label={`Stored bytes by ${split.by}`} reading={reading}>
        <AmountMarks chart={chart} y={y} box={box} />
        <Shapes chart={chart} box={box} y={y} look={look} />
        {(["low", "high"] as const).map((of) => (
          <path
            key={of}
            data-band={of}
            d={edge(of)}
            fill="none"
            stroke={inks.ink}
            strokeWidth={0.9}
            strokeDasharray="1 3"
          />
        ))}
        <DayMarks marks={chart.days} x={x} top={BOTTOM} />
        <line x1={x(places[at] ?? 0)} x2={x(places[at] ?? 0)} y1={TOP} y2={BOTTOM} stroke={inks.ink} />
      </ReadableChart>
      <Typography variant="body2" color="textSecondary" aria-live="polite">
        {writtenDate(days.dates[places[at] ?? 0] ?? "")}
        {band ? ". The sum lies between the dots in eight of ten draws." : ""}
      </Typography>
      <PartList
        layers={layers}
        inWords={(part) =>
          `${inWords(parts[part]?.stored_bytes[at] ?? 0)}, ${countText(parts[part]?.points[at] ?? 0)}`
        }
      />
    </Box>
  );
}

interface BandDay {
  day: number;
  low: number;
  high: number;
}

/** What is stored in a tenth and in nine tenths of the draws, on the days in sight. */
function bandBetween(band: Band | undefined, first: number, last: number): BandDay[] {
  return (band?.places ?? [])
    .map((day, at) => ({ day, low: band?.stored_low[at] ?? 0, high: band?.stored_high[at] ?? 0 }))
    .filter((one) => one.day >= first && one.day <= last);
}
