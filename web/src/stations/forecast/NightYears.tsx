import { Box, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import { useMemo } from "react";
import type { CopyNights, YearsOfNights } from "../../api/types";
import { countText, writtenDate } from "../../shared/format";
import { RowPicture } from "../../shared/RowPicture";
import { useWidth } from "../../shared/useWidth";

const ROW = 30;
const NAMES = 230;
const WORDS = 260;
const WHOLE_NIGHT = 24;

/** Every copy through all nights: how long after noon its last transfer ends, and where something is late. */
export function NightYears({ years }: { years: YearsOfNights }) {
  const [ref, whole] = useWidth<HTMLDivElement>(900);
  const width = Math.max(160, whole - NAMES - WORDS);
  return (
    <div ref={ref}>
      {years.copies.map((copy) => (
        <Box
          key={`${copy.route} ${copy.copy}`}
          sx={{
            display: "grid",
            gridTemplateColumns: `${NAMES}px ${width}px 1fr`,
            alignItems: "center",
            columnGap: 1,
          }}
        >
          <Typography variant="body2" noWrap>
            {copy.name}
          </Typography>
          <Strip copy={copy} width={width} />
          <Typography variant="body2" color={copy.first_late ? "error" : "textSecondary"}>
            {lateWords(copy)}
          </Typography>
        </Box>
      ))}
    </div>
  );
}

function lateWords(copy: CopyNights): string {
  const late = copy.late.filter((one) => one > 0).length;
  if (copy.first_late === null) return "in time on every night";
  return `late on ${countText(late)} nights, first on ${writtenDate(copy.first_late)}`;
}

function Strip({ copy, width }: { copy: CopyNights; width: number }) {
  const { inks } = useTheme();
  const [inTime, late] = useMemo(
    () => [linesOf(copy, width, false), linesOf(copy, width, true)],
    [copy, width],
  );
  const wide = { strokeWidth: Math.max(0.6, width / copy.last_end_hours.length), fill: "none" };
  return (
    <RowPicture width={width} height={ROW} label={`${copy.name}: ${lateWords(copy)}`}>
      <line x1={0} x2={width} y1={ROW - 2} y2={ROW - 2} stroke={inks.hairline} />
      <path d={inTime} stroke={inks.ramp[3]} {...wide} />
      <path d={late} stroke={inks.brick} {...wide} />
    </RowPicture>
  );
}

/** A line up from the foot for each night on which something is late, or on which nothing is: there are thousands of them. */
function linesOf({ last_end_hours, late }: CopyNights, width: number, isLate: boolean): string {
  const foot = ROW - 2;
  const high = (hours: number) => (Math.min(hours, WHOLE_NIGHT) / WHOLE_NIGHT) * (ROW - 4);
  return last_end_hours
    .map((hours, night) =>
      hours === null || (late[night] ?? 0) > 0 !== isLate
        ? ""
        : `M${((night / last_end_hours.length) * width).toFixed(2)},${foot}v${(-high(hours)).toFixed(1)}`,
    )
    .join("");
}
