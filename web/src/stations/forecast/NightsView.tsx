import { Button, Stack, Typography } from "@mui/material";
import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { client, unwrap } from "../../api/client";
import { keys } from "../../api/keys";
import { useDesign } from "../../design/context";
import { goesOn, useJob } from "../../design/useJob";
import { Anew } from "../../shared/Anew";
import { FindingNotes } from "../../shared/FindingNotes";
import { countText, writtenDate } from "../../shared/format";
import { Notice } from "../../shared/Notice";
import { useAddressed } from "../../shared/useAddressed";
import { Word } from "../../shared/Word";
import { NightClock } from "./NightClock";
import { NightTable } from "./NightTable";
import { NightYears } from "./NightYears";
import { Progress } from "./Progress";

/** The night that begins at noon of the as-of date on a clock, and the years as strips of nights. */
export function NightsView() {
  const { job, fresh, begin, stop, error } = useJob("nights");
  const { design } = useDesign();
  const queries = useQueryClient();
  const years = fresh ? job?.nights : undefined;
  const isFollowed = years != null;
  useEffect(() => {
    // Duties are judged by when points have come: with all nights followed that is known.
    if (isFollowed) void queries.invalidateQueries({ queryKey: keys.verdicts(design.id) });
  }, [isFollowed, queries, design.id]);
  return (
    <Stack sx={{ height: "100%", minHeight: 0, overflow: "auto", px: 2, pt: 0.5, gap: 1 }}>
      <OneNight isFollowed={isFollowed} waits={job !== undefined && goesOn(job)} />
      <Stack
        direction="row"
        sx={{ gap: 2, alignItems: "center", borderTop: 1, borderColor: "divider", pt: 1 }}
      >
        <Typography variant="h2">All nights</Typography>
        {job && goesOn(job) ? (
          <Progress job={job} what="Nights followed" onStop={stop} />
        ) : (
          !years && (
            <Button variant="contained" onClick={() => begin()}>
              Follow all nights
            </Button>
          )
        )}
        {years && <Typography>{lateWords(years.first_late)}</Typography>}
        {job?.nights && !fresh && (
          <Typography color="textSecondary">What was followed is an earlier state of the design.</Typography>
        )}
      </Stack>
      {error && <Notice title="The nights cannot be followed" error={error} />}
      {job?.state === "failed" && <Notice title="The nights cannot be followed">{job.failure}</Notice>}
      {years && <FindingNotes findings={years.findings} />}
      {years && <NightYears years={years} />}
    </Stack>
  );
}

function lateWords(day: string | null): string {
  return day === null
    ? "Every night ends in time."
    : `The first night on which something is late begins on ${writtenDate(day)}.`;
}

const AS = { clock: "a clock", table: "a clock with its table" };

function OneNight({ isFollowed, waits }: { isFollowed: boolean; waits: boolean }) {
  const { design, on } = useDesign();
  const [as, setAs] = useAddressed("as", AS, "clock");
  const asTable = as === "table";
  const answer = useQuery({
    queryKey: keys.night(design.id, design.revision, on, isFollowed),
    queryFn: () =>
      unwrap(client.GET("/api/designs/{id}/night", { params: { path: { id: design.id }, query: { on } } })),
    staleTime: Number.POSITIVE_INFINITY,
    // Once all are followed each comes at once: to follow this one meanwhile would only slow them down.
    enabled: !waits,
    retry: false,
    placeholderData: keepPreviousData,
  });
  const night = answer.data?.night;
  if (answer.error)
    return (
      <Notice title={`The night of ${writtenDate(on)} is not known yet`} error={answer.error}>
        Follow all nights first: then each is answered at once.
      </Notice>
    );
  if (!night)
    return (
      <Notice
        title={
          waits
            ? `The night of ${writtenDate(on)} comes with all nights`
            : `Following the night of ${writtenDate(on)}…`
        }
      />
    );
  const transfers = night.bundles.reduce((sum, one) => sum + one.bars.length, night.left_out);
  const late = night.bundles.reduce((sum, one) => sum + one.late, 0);
  return (
    <Anew waits={answer.isPlaceholderData}>
      <Typography variant="h2">
        The <Word term="night">night</Word> of {writtenDate(night.night)}
      </Typography>
      <Typography color="textSecondary" sx={{ mb: 0.5 }}>
        From noon to noon: {countText(transfers)} transfers,{" "}
        {late === 0 ? "none late" : `${countText(late)} late`}. Hatched is waiting, filled is moving, a point
        at the end is late, the pale band an open window.
        {night.left_out > 0 && ` ${countText(night.left_out)} more are not drawn.`}
      </Typography>
      {transfers === 0 ? (
        <Typography>Nothing is asked for in this night.</Typography>
      ) : (
        <>
          <NightClock night={night} before={answer.data?.before ?? []} />
          <Button aria-expanded={asTable} onClick={() => setAs(asTable ? "clock" : "table")}>
            {asTable ? "Hide the table" : "As a table"}
          </Button>
          {asTable && <NightTable night={night} />}
        </>
      )}
    </Anew>
  );
}
