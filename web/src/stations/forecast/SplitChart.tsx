import { Box, Typography } from "@mui/material";
import { useMemo } from "react";
import type { Band, By, Chart, SplitSeries } from "../../api/types";
import { useDesign } from "../../design/context";
import { bytesText, countText, exactBytesText, writtenDate } from "../../shared/format";
import { Notice } from "../../shared/Notice";
import { useWidth } from "../../shared/useWidth";
import { ReadableChart } from "./ReadableChart";
import { scalesOf } from "./Shapes";
import { type BandDay, PartList, Stack } from "./Stacked";
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
  const reading = useReading(places, place, x);
  const { at } = reading;
  const inWords = reading.isReading ? exactBytesText : bytesText;
  return (
    <Box ref={ref}>
      <ReadableChart width={width} height={HEIGHT} label={`Stored bytes by ${split.by}`} reading={reading}>
        <Stack chart={chart} layers={layers} box={box} x={x} y={y} band={inSight} day={places[at] ?? 0} />
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

/** What is stored in a tenth and in nine tenths of the draws, on the days in sight. */
function bandBetween(band: Band | undefined, first: number, last: number): BandDay[] {
  return (band?.places ?? [])
    .map((day, at) => ({ day, low: band?.stored_low[at] ?? 0, high: band?.stored_high[at] ?? 0 }))
    .filter((one) => one.day >= first && one.day <= last);
}
