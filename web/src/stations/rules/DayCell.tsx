import { Box, Stack, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import type { Kind, MonthSheet } from "../../api/types";
import { KIND_NAMES } from "../../shared/words";

type Day = MonthSheet["weeks"][number][number];

export const DAY_SHORT: Record<string, string> = {
  MO: "Mon",
  TU: "Tue",
  WE: "Wed",
  TH: "Thu",
  FR: "Fri",
  SA: "Sat",
  SU: "Sun",
};

const SHOWN = 8;

export function DayCell({ day }: { day: Day }) {
  const words = day.takings.map((taking) => {
    const said = `${taking.time} ${taking.run} (${KIND_NAMES[taking.kind as Kind]})`;
    return taking.gives_way_to === null ? said : `${said} gives way to ${taking.gives_way_to}`;
  });
  return (
    <Box
      component="td"
      title={words.join("\n")}
      sx={{
        height: 40,
        border: 1,
        borderColor: "divider",
        px: 0.75,
        py: 0.25,
        verticalAlign: "top",
        bgcolor: day.in_month ? "background.paper" : "transparent",
        color: day.in_design && day.in_month ? "text.primary" : "text.secondary",
      }}
    >
      <Typography variant="body2" sx={{ lineHeight: 1.1, float: "left", mr: 1 }}>
        {day.day}
      </Typography>
      <Stack direction="row" sx={{ alignItems: "flex-end", gap: "3px", height: 20 }}>
        {day.takings.slice(0, SHOWN).map((taking) => (
          <KindMark
            key={`${taking.time} ${taking.run}`}
            kind={taking.kind as Kind}
            struck={taking.gives_way_to !== null}
          />
        ))}
        {day.takings.length > SHOWN && (
          <Typography variant="caption">+{day.takings.length - SHOWN}</Typography>
        )}
        <Box component="span" data-unseen sx={VISUALLY_HIDDEN}>
          {words.join(", ")}
        </Box>
      </Stack>
    </Box>
  );
}

const VISUALLY_HIDDEN = {
  position: "absolute",
  width: "1px",
  height: "1px",
  overflow: "hidden",
  clip: "rect(0 0 0 0)",
};

const TALL: Record<Kind, number> = {
  full: 20,
  synthetic: 20,
  differential: 13,
  incremental: 8,
  snapshot: 8,
  log: 3,
};

/** A kind as a spine: the more it holds the taller; a synthetic full is only outlined, since it is put together. */
export function KindMark({ kind, struck = false }: { kind: Kind; struck?: boolean }) {
  const { inks } = useTheme();
  const fill = {
    full: inks.ramp[6],
    synthetic: "none",
    differential: inks.ramp[4],
    incremental: inks.ramp[3],
    snapshot: inks.ramp[2],
    log: inks.slate,
  };
  return (
    <svg width={7} height={20} aria-hidden="true">
      <rect
        x={0.75}
        y={20 - TALL[kind]}
        width={5.5}
        height={TALL[kind] - 0.5}
        fill={fill[kind]}
        stroke={inks.plum}
        strokeWidth={kind === "synthetic" ? 1.5 : 0}
        opacity={struck ? 0.35 : 1}
      />
      {struck && (
        <line x1={0} x2={7} y1={19} y2={20 - TALL[kind] - 1} stroke={inks.brick} strokeWidth={1.5} />
      )}
    </svg>
  );
}
