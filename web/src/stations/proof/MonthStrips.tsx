import { Box, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import { useId } from "react";
import type { MonthOfCase, MonthsOfCase } from "../../api/types";
import { useDesign } from "../../design/context";
import { countText, lengthText, writtenDate } from "../../shared/format";
import { BrokenHatch, RowPicture } from "../../shared/RowPicture";
import { useWidth } from "../../shared/useWidth";

const NAMES = 210;
const WORDS = 420;
const HEIGHT = 48;
const FOOT = HEIGHT - 10;

/** The most that is lost in each month, and how long it takes until all is back, each with its worst in words. */
export function Strips({ found }: { found: MonthsOfCase }) {
  const [ref, whole] = useWidth<HTMLDivElement>(900);
  const width = Math.max(160, whole - NAMES - WORDS);
  const nothing = found.months.filter((one) => one.nothing_left.length > 0);
  const called = found.months.filter((one) => one.back_text || one.not_back > 0);
  return (
    <Box ref={ref}>
      <Strip
        name="The most that is lost"
        months={found.months}
        value={(one) => one.worst_loss_seconds}
        isBroken={(one) => one.nothing_left.length > 0}
        width={width}
        words={`${mostOf(
          found.months,
          (one) => one.worst_loss_seconds,
          (one) => one.worst_workload,
        )}${nothingWords(nothing)}`}
      />
      {called.length > 0 && (
        <Strip
          name="Until all is back"
          months={called}
          value={(one) => one.back_seconds}
          isBroken={(one) => one.not_back > 0}
          width={width}
          words={`${mostOf(
            called,
            (one) => one.back_seconds,
            (one) => one.held_most,
          )}${notBackWords(called)}`}
        />
      )}
    </Box>
  );
}

function mostOf(
  months: MonthOfCase[],
  value: (month: MonthOfCase) => number | null,
  about: (month: MonthOfCase) => string,
): string {
  const most = months.reduce<MonthOfCase | null>(
    (so, one) => (value(one) !== null && (so === null || (value(one) ?? 0) > (value(so) ?? 0)) ? one : so),
    null,
  );
  if (most === null) return "";
  return `At most ${lengthText(value(most) ?? 0)}, in the month to ${writtenDate(most.date)}${about(most) ? `: ${about(most)}` : ""}.`;
}

function nothingWords(months: MonthOfCase[]): string {
  const first = months[0];
  if (!first) return " Something is always left of everything.";
  const few = first.nothing_left.slice(0, 2).join(", ");
  const more = first.nothing_left.length - 2;
  return ` Nothing is left of something in ${countText(months.length)} ${months.length === 1 ? "month" : "months"}, first of ${few}${more > 0 ? ` and ${countText(more)} more` : ""}.`;
}

function notBackWords(months: MonthOfCase[]): string {
  const most = Math.max(...months.map((one) => one.not_back));
  return most > 0 ? ` Up to ${countText(most)} ${most === 1 ? "is" : "are"} not restored.` : "";
}

interface StripProps {
  name: string;
  months: MonthOfCase[];
  value: (month: MonthOfCase) => number | null;
  isBroken: (month: MonthOfCase) => boolean;
  width: number;
  words: string;
}

/** A bar for each month; hatched below where something is lost for good. */
function Strip({ name, months, value, isBroken, width, words }: StripProps) {
  const { inks } = useTheme();
  const { on } = useDesign();
  const hatch = useId();
  const most = Math.max(1, ...months.map((one) => value(one) ?? 0));
  const step = width / Math.max(1, months.length);
  const now = months.findIndex((one) => one.date >= on);
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: `${NAMES}px ${width}px 1fr`, columnGap: 1, my: 0.5 }}>
      <Typography variant="body2">{name}</Typography>
      <RowPicture width={width} height={HEIGHT} label={`${name}. ${words}`}>
        <BrokenHatch id={hatch} />
        <line x1={0} x2={width} y1={FOOT} y2={FOOT} stroke={inks.hairline} />
        {months.map((one, at) => {
          const seconds = value(one);
          const high = ((FOOT - 2) * (seconds ?? 0)) / most;
          const bar = { x: at * step, width: Math.max(0.8, step - 0.6) };
          return (
            <g key={one.date}>
              <rect {...bar} y={FOOT - high} height={high} fill={inks.ramp[3]} />
              {isBroken(one) && <rect {...bar} y={FOOT + 2} height={6} fill={`url(#${hatch})`} />}
            </g>
          );
        })}
        {now >= 0 && (
          <line
            x1={(now + 0.5) * step}
            x2={(now + 0.5) * step}
            y1={0}
            y2={HEIGHT}
            stroke={inks.plum}
            strokeDasharray="2 2"
          />
        )}
      </RowPicture>
      <Typography variant="body2" color="textSecondary">
        {words}
      </Typography>
    </Box>
  );
}
