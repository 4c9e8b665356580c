import { Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import type { Band, Days, DetailSeries } from "../../api/types";
import { bytesText, countText, exactBytesText, writtenDate } from "../../shared/format";
import { BYTES, type Props, TWO_LINES } from "./detailLayout";

export function FullFlag({ at, width }: { at: number; width: number }) {
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

export function Legend({ hasReference, hasRoom, band, held, on }: LegendProps) {
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
export function Reading({ series, at, days }: { series: DetailSeries; at: number; days: Days }) {
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
