import { Box, Button, Stack, Typography } from "@mui/material";
import type { MonthOfCase, MonthsOfCase } from "../../api/types";
import { useDesign } from "../../design/context";
import { isUnderWay } from "../../design/editing";
import { goesOn, useJob } from "../../design/useJob";
import { Choice } from "../../shared/Choice";
import { DayTable } from "../../shared/DayTable";
import { DownloadView } from "../../shared/DownloadView";
import { countText, lengthText } from "../../shared/format";
import { Notice } from "../../shared/Notice";
import { saveTable } from "../../shared/saveTable";
import { useAddressed } from "../../shared/useAddressed";
import { Progress } from "../forecast/Progress";
import { Strips } from "./MonthStrips";

const AS = { picture: "picture", table: "table" };

/** A loss through all months of the design: the most it takes, and how long its plan needs to bring all back. */
export function CaseMonths({ chosen }: { chosen: string }) {
  const { job, fresh, begin, stop, error } = useJob("months");
  const { saveState } = useDesign();
  const [as, setAs] = useAddressed("as", AS, "picture");
  const found = fresh ? job?.months?.find((one) => one.case === chosen) : undefined;
  return (
    <Stack component="section" aria-label="Through the years" data-view sx={{ gap: 0.5, mt: 1 }}>
      <Stack direction="row" sx={{ alignItems: "center", gap: 1.5 }}>
        <Typography variant="h3" sx={{ fontSize: 19 }}>
          Through the years
        </Typography>
        {goesOn(job) && job && <Progress job={job} what="Losses worked out" onStop={stop} />}
        {!found && !goesOn(job) && (
          <Button variant="outlined" disabled={isUnderWay(saveState)} onClick={() => begin()}>
            Work out every month
          </Button>
        )}
        <Box sx={{ flex: 1 }} />
        {found && (
          <>
            <Choice label="Months shown as" value={as} options={AS} disabled={false} onChange={setAs} />
            <DownloadView
              label="Download these months"
              file={`losses-by-month-${found.name}`}
              onSaveValues={() => saveMonths(found)}
            />
          </>
        )}
      </Stack>
      {error && <Notice title="The months cannot be worked out" error={error} />}
      {job?.state === "failed" && <Notice title="The months cannot be worked out">{job.failure}</Notice>}
      {found && as === "picture" && <Strips found={found} />}
      {found && as === "table" && <MonthTable found={found} />}
    </Stack>
  );
}

function MonthTable({ found }: { found: MonthsOfCase }) {
  const one = (at: number) => found.months[at] as MonthOfCase;
  const length = (seconds: number | null) => (seconds === null ? "" : lengthText(seconds));
  return (
    <DayTable
      label={`${found.name} by month`}
      head="Month to"
      rows={found.months.map((month) => month.date)}
      columns={[
        ["Most that is lost", (at) => length(one(at).worst_loss_seconds)],
        ["Of", (at) => one(at).worst_workload],
        ["Nothing left of", (at) => countText(one(at).nothing_left.length)],
        ["All is back after", (at) => length(one(at).back_seconds)],
        ["Not restored", (at) => (found.plan ? countText(one(at).not_back) : "")],
        ["Held most by", (at) => one(at).held_most],
      ]}
    />
  );
}

/** Every month, as it was answered. */
function saveMonths(found: MonthsOfCase) {
  saveTable(
    `losses-by-month-${found.name}`,
    [
      "date",
      "worst_loss_seconds",
      "worst_workload",
      "nothing_left",
      "back_seconds",
      "over_seconds",
      "not_back",
      "held_most",
      "cost",
    ],
    found.months.map((one) => [
      one.date,
      one.worst_loss_seconds,
      one.worst_workload,
      one.nothing_left.join("; "),
      one.back_seconds,
      one.over_seconds,
      one.not_back,
      one.held_most,
      one.cost,
    ]),
  );
}
