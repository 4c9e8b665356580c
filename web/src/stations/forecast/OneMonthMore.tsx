import { Box, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import { useEffect } from "react";
import { useDesign } from "../../design/context";
import { endedWithout, goesOn, useJob } from "../../design/useJob";
import { moneyText } from "../../shared/format";
import { NotDone } from "../../shared/NotDone";
import { Notice } from "../../shared/Notice";
import { RankedBars, SaveBars } from "../../shared/RankedBars";
import { Progress } from "./Progress";

/** What each rung would cost if it were kept a month longer, the dearest first. */
export function OneMonthMore({ currency }: { currency: string }) {
  const { design } = useDesign();
  const { inks } = useTheme();
  const { job, fresh, isLookingForIt, begin, stop, error } = useJob("longer");
  // biome-ignore lint/correctness/useExhaustiveDependencies: begun anew when the design is another
  useEffect(() => {
    if (!isLookingForIt && !fresh) begin();
  }, [design.revision, isLookingForIt]);
  if (error) return <Notice title="This cannot be computed" error={error} />;
  if (fresh && endedWithout(job))
    return <NotDone job={job} title="This cannot be computed" onAgain={() => begin()} />;
  if (job && goesOn(job)) return <Progress job={job} what="Rungs made longer" onStop={stop} />;
  if (!job?.longer || !fresh) return <Notice title="Making rungs longer one by one…" />;
  const rows = [...job.longer].sort((one, other) => other.whole_cost - one.whole_cost);
  const ladders = new Map(design.document.ladders.map((one) => [one.id, one.name || one.id]));
  const bars = rows.map((row) => ({
    key: `${row.ladder} ${row.rung}`,
    owner: ladders.get(row.ladder) ?? row.ladder,
    name: `${row.rung}, ${row.added}`,
    value: Math.max(0, row.whole_cost),
    ink: inks.ramp[4] ?? inks.plum,
    figures: row.refused
      ? [row.refused, ""]
      : [
          `${moneyText(row.whole_cost, currency)} over all years`,
          `${moneyText(row.monthly_cost, currency)} a month in the last`,
        ],
  }));
  const label = "One more month of each rung";
  return (
    <Box sx={{ px: 2, pb: 1 }}>
      <Typography component="div" color="textSecondary">
        Each rung kept longer alone, from a second run of the forecast and its bill.{" "}
        <SaveBars
          label={label}
          rows={bars}
          file="one-month-more"
          columns={[
            "ladder",
            "rung",
            "added",
            "cost_of_all_years",
            "cost_a_month_in_the_last_year",
            "currency",
          ]}
          cells={rows.map((row) => [
            row.ladder,
            row.rung,
            row.added,
            row.whole_cost,
            row.monthly_cost,
            currency,
          ])}
        />
      </Typography>
      <RankedBars label={label} rows={bars} />
    </Box>
  );
}
