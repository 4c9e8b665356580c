import ChevronLeftIcon from "@mui/icons-material/ChevronLeft";
import ChevronRightIcon from "@mui/icons-material/ChevronRight";
import { Box, IconButton, Stack, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { client, unwrap } from "../../api/client";
import { keys } from "../../api/keys";
import type { Cadence, Kind } from "../../api/types";
import { useDesign } from "../../design/context";
import { KIND_NAMES } from "../../shared/words";
import { DAY_SHORT, DayCell, KindMark } from "./DayCell";

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
      <Stack direction="row" sx={{ alignItems: "center", gap: 0.5, mb: 0.5, flexWrap: "wrap" }}>
        <Step label="The month before" to={sheet.before} onStep={setMonth} icon={<ChevronLeftIcon />} />
        <Typography variant="h3" component="h2" sx={{ minWidth: 140, textAlign: "center" }}>
          {sheet.title}
        </Typography>
        <Step label="The month after" to={sheet.after} onStep={setMonth} icon={<ChevronRightIcon />} />
        <Stack direction="row" sx={{ gap: 2, ml: 3, color: "text.secondary", flexWrap: "wrap" }}>
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
