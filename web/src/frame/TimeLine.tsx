import { Box, Button, Slider, Stack, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import { useEffect, useMemo, useState } from "react";
import { useDesign, useShownFigures } from "../design/context";
import { nearestStop, stopsOf } from "../design/stops";
import { dayOfMonth, monthsAway } from "../design/useAsOf";
import { writtenDate } from "../shared/format";
import { Word } from "../shared/Word";
import { NARROW, SERIF } from "../theme/theme";

/** The whole design along the bottom, with the as-of handle that every view follows and the days on which targets fill. */
export function TimeLine() {
  const { days, place, on, setPlace } = useDesign();
  const { consequences } = useShownFigures();
  const { inks } = useTheme();
  const last = days.dates.length - 1;
  const years = useMemo(
    () =>
      days.month_begins
        .filter((begin) => days.dates[begin]?.slice(5, 7) === "01")
        .map((begin) => ({ value: begin, label: days.dates[begin]?.slice(0, 4) })),
    [days],
  );
  const stops = useMemo(() => stopsOf(days), [days]);
  const shown = years.filter((_, at) => at % Math.ceil(years.length / 16) === 0);
  const full = (consequences?.targets ?? []).filter((one) => one.now.full_on !== null);
  return (
    <Stack
      component="footer"
      direction="row"
      sx={{
        alignItems: "center",
        borderTop: 1,
        borderColor: "divider",
        bgcolor: "background.paper",
        px: 2,
        gap: 2,
        [NARROW]: { flexWrap: "wrap", py: 1 },
      }}
    >
      <Box sx={{ width: 176, flexShrink: 0 }}>
        <Typography variant="body2" color="textSecondary">
          <Word term="as-of date">As of the end of</Word>
        </Typography>
        <Typography sx={{ fontFamily: SERIF, fontSize: 18 }} data-testid="as-of">
          {writtenDate(on)}
        </Typography>
      </Box>
      <Walk />
      <Box sx={{ position: "relative", flex: "1 1 200px", mr: 3 }}>
        {full.map((one) => (
          <Box
            key={one.now.target}
            title={`${one.now.name} is full on ${writtenDate(one.now.full_on ?? "")}`}
            sx={{
              position: "absolute",
              top: 0,
              left: `${(100 * days.dates.indexOf(one.now.full_on ?? "")) / last}%`,
              width: "2px",
              height: 18,
              bgcolor: inks.brick,
            }}
          />
        ))}
        <Slider
          aria-label="As-of date"
          size="small"
          min={0}
          max={last}
          value={place}
          marks={shown}
          onChange={(event, value) =>
            setPlace(isByHand(event) ? nearestStop(stops, value as number) : (value as number))
          }
          getAriaValueText={(value) => writtenDate(days.dates[value] ?? on)}
          sx={{
            "& .MuiSlider-thumb": { width: 10, height: 26, borderRadius: "2px" },
            "& .MuiSlider-track, & .MuiSlider-rail": { height: 3 },
            "& .MuiSlider-markLabel": { color: "text.secondary", fontSize: 12, top: 28 },
            "& .MuiSlider-mark": { height: 8, width: "1px", bgcolor: "text.secondary" },
            "&.MuiSlider-root": { mb: 1.5, display: "block" },
          }}
        />
      </Box>
    </Stack>
  );
}

/** By a pointer, and not by the keys of the handle. */
function isByHand(event: Event): boolean {
  return !(event.type.startsWith("key") || event.type === "change");
}

const STEP_MS = 450;

/** Walks through time a month at a step, so that shelves are seen to fill and to empty. */
function Walk() {
  const { days, place, setPlace } = useDesign();
  // The day of the month that the walk keeps to: from the 31st it goes by every month's end, not on from the 28th.
  const [day, setDay] = useState<string | null>(null);
  useEffect(() => {
    if (day === null) return;
    const next = monthsAway(days, place, 1, day);
    if (next === place) return setDay(null);
    const timer = setTimeout(() => setPlace(next), STEP_MS);
    return () => clearTimeout(timer);
  }, [day, place, days, setPlace]);
  const start = () => {
    const from = monthsAway(days, place, 1) === place ? 0 : place;
    setPlace(from);
    setDay(dayOfMonth(days, from));
  };
  return (
    <Button onClick={() => (day === null ? start() : setDay(null))} sx={{ whiteSpace: "nowrap" }}>
      {day === null ? "Walk the years" : "Stand still"}
    </Button>
  );
}
