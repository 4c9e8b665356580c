import { Box, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import { useEffect } from "react";
import type { Marginal } from "../../api/types";
import { useDesign } from "../../design/context";
import { endedWithout, goesOn, useJob } from "../../design/useJob";
import { bytesText, countText, writtenDate } from "../../shared/format";
import { NotDone } from "../../shared/NotDone";
import { Notice } from "../../shared/Notice";
import { RankedBars, SaveBars } from "../../shared/RankedBars";
import { Progress } from "./Progress";

/** What would not be on a target without each rule, the heaviest first: each from a second run of the engine. */
export function Marginals({ target }: { target: string }) {
  const { design, on } = useDesign();
  const { job, fresh, isLookingForIt, begin, stop, error } = useJob("rules");
  // biome-ignore lint/correctness/useExhaustiveDependencies: begun anew when the design or the date is another
  useEffect(() => {
    if (!isLookingForIt && !fresh) begin();
  }, [design.revision, on, isLookingForIt]);
  if (error) return <Notice title="This cannot be computed" error={error} />;
  if (fresh && endedWithout(job))
    return <NotDone job={job} title="This cannot be computed" onAgain={() => begin()} />;
  if (job && goesOn(job))
    return (
      <Box sx={{ px: 2, py: 1 }}>
        <Progress job={job} what="Rules taken away" onStop={stop} />
      </Box>
    );
  if (!job?.rules || !fresh) return <Notice title="Taking rules away one by one…" />;
  return <Ranked marginals={job.rules} target={target} />;
}

function Ranked({ marginals, target }: { marginals: Marginal[]; target: string }) {
  const { design, on } = useDesign();
  const { inks } = useTheme();
  const ladders = new Map(design.document.ladders.map((one) => [one.id, one.name || one.id]));
  const rows = marginals
    .map((one) => ({ ...one, here: one.differences.find((found) => found.target === target) }))
    .filter((one) => one.here !== undefined || one.refused)
    .sort((one, other) => Math.abs(other.here?.stored_bytes ?? 0) - Math.abs(one.here?.stored_bytes ?? 0));
  const bars = rows.map(({ rule, here, refused }) => ({
    key: `${rule.sort} ${rule.owner} ${rule.place}`,
    owner: ladders.get(rule.owner) ?? rule.owner,
    name: rule.words,
    value: here?.stored_bytes ?? 0,
    ink: (rule.sort === "lock" ? inks.brass : inks.ramp[4]) ?? inks.plum,
    figures: here
      ? [
          bytesText(here.stored_bytes),
          `${countText(here.points)} points`,
          `${bytesText(here.peak_bytes)} at the peak`,
        ]
      : ["", refused, ""],
  }));
  const label = "What each rule is worth";
  return (
    <Box sx={{ px: 2, pb: 1 }}>
      <Typography component="div" color="textSecondary" sx={{ mb: 0.5 }}>
        If a rule were not there, this much less would be here at the end of {writtenDate(on)}. The shares do
        not sum: what two rules claim stays when either goes.{" "}
        <SaveBars
          label={`${label} on ${target} at the end of ${writtenDate(on)}`}
          rows={bars}
          file={`rules-on-${target}-${on}`}
          columns={["sort", "owner", "rule", "points", "stored_bytes", "peak_bytes", "full_on_without"]}
          cells={rows.map(({ rule, here }) => [
            rule.sort,
            rule.owner,
            rule.words,
            here?.points,
            here?.stored_bytes,
            here?.peak_bytes,
            here?.full_on,
          ])}
        />
      </Typography>
      {rows.length === 0 ? (
        <Typography>No single rule matters here: whichever goes, others claim the same.</Typography>
      ) : (
        <RankedBars label={label} rows={bars} />
      )}
    </Box>
  );
}
