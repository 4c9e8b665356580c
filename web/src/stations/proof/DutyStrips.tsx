import { Box, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import { useId } from "react";
import type { DutyRow, DutySheet } from "../../api/types";
import { useDesign } from "../../design/context";
import { countText } from "../../shared/format";
import { BrokenHatch, RowPicture } from "../../shared/RowPicture";
import { useWidth } from "../../shared/useWidth";
import { Mend } from "./Mend";

const WORDS = 330;
const VERDICT = 250;
const HEIGHT = 16;
/** What longer keeps can mend. */
const LADDERS_MEND = new Set(["rpo", "history", "copies"]);

/** What a duty asks, a strip of days for each: where it fails stands out by shape and is said in words. */
export function DutyStrips({ sheet, duty }: { sheet: DutySheet; duty: string }) {
  const rows = sheet.rows.filter((row) => row.duty === duty);
  const [ref, whole] = useWidth<HTMLDivElement>(900);
  const width = Math.max(160, whole - WORDS - VERDICT);
  return (
    <Box ref={ref} component="ul" sx={{ listStyle: "none", m: 0, p: 0 }}>
      {rows.map((row) => (
        <Box
          component="li"
          key={`${row.ask} ${row.workloads.join(" ")}`}
          data-verdict={row.verdict}
          sx={{ borderTop: 1, borderColor: "divider", py: 0.5 }}
        >
          <Box
            sx={{
              display: "grid",
              gridTemplateColumns: `${WORDS}px ${width}px 1fr`,
              alignItems: "center",
              columnGap: 1.5,
            }}
          >
            <Box>
              <Typography>{row.asks}</Typography>
              <Typography
                variant="body2"
                color="textSecondary"
                noWrap
                data-whole
                title={row.workload_names.join(", ")}
              >
                {namesOf(row)}
              </Typography>
            </Box>
            <Strip row={row} days={sheet.days} width={width} />
            <Box>
              <Typography color={row.verdict === "fails" ? "error" : "textPrimary"} sx={{ fontWeight: 600 }}>
                {row.verdict}
              </Typography>
              <Typography variant="body2" color="textSecondary">
                worst: {row.worst}
              </Typography>
            </Box>
          </Box>
          {row.verdict === "fails" && (
            <>
              <Typography sx={{ pl: 1.25, pt: 0.25 }}>{row.reason}</Typography>
              {LADDERS_MEND.has(row.kind) && <Mend duty={duty} ask={row.ask} asks={row.asks} />}
            </>
          )}
        </Box>
      ))}
    </Box>
  );
}

function namesOf(row: DutyRow): string {
  const [first = "", second, ...rest] = row.workload_names;
  if (second === undefined) return first;
  return rest.length === 0
    ? `${first} and ${second}`
    : `${first}, ${second} and ${countText(rest.length)} more`;
}

function Strip({ row, days, width }: { row: DutyRow; days: number; width: number }) {
  const { inks } = useTheme();
  const { place } = useDesign();
  const hatch = useId();
  const x = (day: number) => (day / Math.max(1, days)) * width;
  return (
    <RowPicture width={width} height={HEIGHT} label={`${row.asks}: ${row.verdict}. ${row.reason}`}>
      <BrokenHatch id={hatch} />
      <line x1={0} x2={width} y1={HEIGHT / 2} y2={HEIGHT / 2} stroke={inks.hairline} />
      {row.days_asked > 0 && (
        <rect
          x={x(row.asked_from)}
          width={Math.max(1, x(row.asked_to + 1) - x(row.asked_from))}
          y={HEIGHT / 2 - 1.5}
          height={3}
          fill={inks.moss}
        />
      )}
      {row.spans.map((span) => (
        <rect
          key={span.first}
          x={x(span.first)}
          width={Math.max(1.5, x(span.last + 1) - x(span.first))}
          y={1}
          height={HEIGHT - 2}
          fill={`url(#${hatch})`}
        >
          <title>
            {span.first_day === span.last_day ? span.first_day : `${span.first_day} to ${span.last_day}`}
          </title>
        </rect>
      ))}
      <line x1={x(place)} x2={x(place)} y1={0} y2={HEIGHT} stroke={inks.plum} strokeDasharray="2 2" />
    </RowPicture>
  );
}
