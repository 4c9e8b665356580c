import ChevronLeftIcon from "@mui/icons-material/ChevronLeft";
import ChevronRightIcon from "@mui/icons-material/ChevronRight";
import { Box, IconButton, Stack, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { client, unwrap } from "../../api/client";
import { keys } from "../../api/keys";
import type { Cadence, Kind, MonthSheet } from "../../api/types";
import { useDesign } from "../../design/context";
import { KIND_NAMES } from "../../shared/words";

type Day = MonthSheet["weeks"][number][number];

/** What a cadence takes in the month of the as-of date, or in the months around it. */
export function MonthCalendar({ cadence }: { cadence: Cadence }) {
  const { design, on } = useDesign();
  const [month, setMonth] = useState(on.slice(0, 7));
  useEffect(() => setMonth(on.slice(0, 7)), [on]);
  const sheet = useQuery({
    queryKey: keys.month(design.id, design.revision, cadence.id, month),
    queryFn: () =>
      unwrap(
        client.GET("/api/designs/{id}/cadences/{key}/month", {
          params: { path: { id: design.id, key: cadence.id }, query: { month } },
        }),
      ),
    placeholderData: (before) => before,
  }).data;
  if (!sheet) return null;
  const kinds = [
    ...new Set(sheet.weeks.flat().flatMap((day) => day.takings.map((taking) => taking.kind as Kind))),
  ];
  const clashes = sheet.weeks
    .flat()
    .some((day) => day.takings.some((taking) => taking.gives_way_to !== null));
  return (
    <Box component="section" aria-label="Month">
      <Stack direction="row" sx={{ alignItems: "center", gap: 0.5, mb: 0.5 }}>
        <Step label="The month before" to={sheet.before} onStep={setMonth} icon={<ChevronLeftIcon />} />
        <Typography variant="h3" component="h2" sx={{ minWidth: 140, textAlign: "center" }}>
          {sheet.title}
        </Typography>
        <Step label="The month after" to={sheet.after} onStep={setMonth} icon={<ChevronRightIcon />} />
        <Stack direction="row" sx={{ gap: 2, ml: 3, color: "text.secondary" }}>
          {clashes && (
            <Stack direction="row" sx={{ gap: 0.75, alignItems: "center" }}>
              <KindMark kind="incremental" struck />
              gives way
            </Stack>
          )}
          {kinds.map((kind) => (
            <Stack key={kind} direction="row" sx={{ gap: 0.75, alignItems: "center" }}>
              <KindMark kind={kind} />
              {KIND_NAMES[kind]}
            </Stack>
          ))}
        </Stack>
      </Stack>
      <Box component="table" sx={{ width: "100%", borderCollapse: "collapse", tableLayout: "fixed" }}>
        <thead>
          <tr>
            {sheet.weekdays.map((day) => (
              <Box
                key={day}
                component="th"
                scope="col"
                sx={{ textAlign: "left", fontWeight: 600, color: "text.secondary", px: 0.75 }}
              >
                {DAY_SHORT[day]}
              </Box>
            ))}
          </tr>
        </thead>
        <tbody>
          {sheet.weeks.map((week) => (
            <tr key={week[0]?.date}>
              {week.map((day) => (
                <DayCell key={day.date} day={day} />
              ))}
            </tr>
          ))}
        </tbody>
      </Box>
    </Box>
  );
}

const DAY_SHORT: Record<string, string> = {
  MO: "Mon",
  TU: "Tue",
  WE: "Wed",
  TH: "Thu",
  FR: "Fri",
  SA: "Sat",
  SU: "Sun",
};
const SHOWN = 8;

function DayCell({ day }: { day: Day }) {
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
        <Box component="span" sx={VISUALLY_HIDDEN}>
          {words.join(", ")}
        </Box>
      </Stack>
    </Box>
  );
}

const VISUALLY_HIDDEN = {
  position: "absolute",
  width: 1,
  height: 1,
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
function KindMark({ kind, struck = false }: { kind: Kind; struck?: boolean }) {
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

function Step({
  label,
  to,
  onStep,
  icon,
}: {
  label: string;
  to: string | null;
  onStep: (month: string) => void;
  icon: React.ReactNode;
}) {
  return (
    <IconButton size="small" aria-label={label} disabled={to === null} onClick={() => to && onStep(to)}>
      {icon}
    </IconButton>
  );
}
