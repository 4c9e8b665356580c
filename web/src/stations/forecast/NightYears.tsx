import { Box, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import type { CopyNights, YearsOfNights } from "../../api/types";
import { countText, writtenDate } from "../../shared/format";
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
  const count = copy.last_end_hours.length;
  const x = (place: number) => (place / count) * width;
  const y = (hours: number) => ROW - 2 - (Math.min(hours, WHOLE_NIGHT) / WHOLE_NIGHT) * (ROW - 4);
  return (
    <svg
      viewBox={`0 0 ${width} ${ROW}`}
      width={width}
      height={ROW}
      role="img"
      aria-label={`${copy.name}: ${lateWords(copy)}`}
      style={{ display: "block" }}
    >
      <line x1={0} x2={width} y1={ROW - 2} y2={ROW - 2} stroke={inks.hairline} />
      {copy.last_end_hours.map((hours, place) =>
        hours === null ? null : (
          <line
            // biome-ignore lint/suspicious/noArrayIndexKey: the nights stay where they are
            key={place}
            x1={x(place)}
            x2={x(place)}
            y1={ROW - 2}
            y2={y(hours)}
            stroke={(copy.late[place] ?? 0) > 0 ? inks.brick : inks.ramp[3]}
            strokeWidth={Math.max(0.6, width / count)}
          />
        ),
      )}
    </svg>
  );
}
