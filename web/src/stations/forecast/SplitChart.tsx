import { Box, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { useMemo } from "react";
import type { Band, By, SplitSeries } from "../../api/types";
import { useDesign } from "../../design/context";
import { bytesText, countText, exactBytesText, writtenDate } from "../../shared/format";
import { Notice } from "../../shared/Notice";
import { useWidth } from "../../shared/useWidth";
import { ByteTicks, ReadableChart } from "./ReadableChart";
import { PartList, StackedAreas } from "./Stacked";
import { useReading } from "./useReading";
import type { Span } from "./useSpan";
import { useSplit } from "./useSplit";
import { YearTicks } from "./YearTicks";

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
  return <Drawn split={answer.data.split} band={band} />;
}

function Drawn({ split, band }: { split: SplitSeries; band: Band | undefined }) {
  const { days, place } = useDesign();
  const { inks } = useTheme();
  const [ref, width] = useWidth<HTMLDivElement>(600);
  const { places, parts } = split;
  const layers = useMemo(
    () => parts.map(({ name, stored_bytes }) => ({ name, values: stored_bytes })),
    [parts],
  );
  const sums = places.map((_, at) => layers.reduce((sum, layer) => sum + (layer.values[at] ?? 0), 0));
  const x = scaleLinear([places[0] ?? 0, places.at(-1) ?? 1], [LEFT, width - RIGHT]).clamp(true);
  const inSight = bandBetween(band, places[0] ?? 0, places.at(-1) ?? 0);
  // A band may reach far past what is expected; what is expected stays readable.
  const expected = Math.max(1, ...sums);
  const top = Math.min(2 * expected, Math.max(expected, ...inSight.map((one) => one.high)));
  const y = scaleLinear([0, top], [BOTTOM, TOP]).nice(4).clamp(true);
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
        <ByteTicks y={y} left={LEFT} right={width - RIGHT} />
        <StackedAreas layers={layers} places={places} x={x} y={y} />
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
        <YearTicks x={x} days={days} top={BOTTOM} />
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
