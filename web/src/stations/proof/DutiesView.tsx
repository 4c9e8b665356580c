import { Box, Button, Stack, Typography } from "@mui/material";
import { useEffect, useState } from "react";
import type { Duty, DutySheet } from "../../api/types";
import { useDesign } from "../../design/context";
import { endedWithout, goesOn, useJob } from "../../design/useJob";
import { DownloadView } from "../../shared/DownloadView";
import { countText } from "../../shared/format";
import { freshId } from "../../shared/ids";
import { NotDone } from "../../shared/NotDone";
import { Notice } from "../../shared/Notice";
import { StartDialog } from "../../shared/StartDialog";
import { saveTable } from "../../shared/saveTable";
import { useStartingPoints } from "../../shared/useStartingPoints";
import { Word } from "../../shared/Word";
import { Progress } from "../forecast/Progress";
import { DutyEditor } from "./DutyEditor";
import { DutyStrips } from "./DutyStrips";

/** Every duty on a sheet of years: where it fails, why, and the sentences in which it is asked. */
export function DutiesView() {
  const { design, canEdit, save } = useDesign();
  const duties = design.document.duties ?? [];
  const [adding, setAdding] = useState(false);
  const [open, setOpen] = useState<string | null>(null);
  const { job, fresh, begin, stop, error, isLookingForIt } = useJob("duties");
  const judged = fresh && job?.duties ? job.duties : undefined;
  useEffect(() => {
    // Each edit is judged anew once it is saved; what was stopped or failed is not begun again by itself.
    if (duties.length > 0 && !isLookingForIt && !fresh && !goesOn(job)) begin();
  }, [duties.length, isLookingForIt, fresh, job, begin]);
  const add = async (start: Duty) => {
    setAdding(false);
    const duty = { ...start, id: freshId(start.id, duties) };
    if (await save("duties", duty.id, duty, `the duty ${duty.name}`)) setOpen(duty.id);
  };
  return (
    <Stack data-view sx={{ gap: 2 }}>
      <Stack direction="row" sx={{ alignItems: "center", gap: 2 }}>
        <Typography variant="h2">
          <Word term="duty">Duties</Word>
        </Typography>
        {job && goesOn(job) ? (
          <Progress job={job} what="Duties judged" onStop={stop} />
        ) : (
          <Typography role="status">{headline(judged, duties.length)}</Typography>
        )}
        {duties.length > 0 && !fresh && !goesOn(job) && (
          <Button variant="contained" onClick={() => begin()}>
            Judge the duties
          </Button>
        )}
        <Box sx={{ flex: 1 }} />
        {judged && judged.rows.length > 0 && (
          <DownloadView label="Download these duties" file="duties" onSaveValues={() => saveSheet(judged)} />
        )}
        {canEdit && (
          <Button variant="outlined" onClick={() => setAdding(true)}>
            Add a duty
          </Button>
        )}
      </Stack>
      {error && <Notice title="The duties cannot be judged" error={error} />}
      {fresh && endedWithout(job) && (
        <NotDone job={job} title="The duties cannot be judged" onAgain={() => begin()} />
      )}
      {duties.length === 0 && (
        <Notice title="No duty yet">
          <Typography>
            A duty says what a law, a contract or a house asks of workloads. Begin with a ready-made one.
          </Typography>
        </Notice>
      )}
      {duties.map((duty) => (
        <OneDuty
          key={duty.id}
          duty={duty}
          sheet={judged}
          isOpen={open === duty.id}
          onOpen={() => setOpen(open === duty.id ? null : duty.id)}
        />
      ))}
      {adding && <AddDuty onChoose={(duty) => void add(duty)} onClose={() => setAdding(false)} />}
    </Stack>
  );
}

interface DutyProps {
  duty: Duty;
  sheet: DutySheet | undefined;
  isOpen: boolean;
  onOpen: () => void;
}

function OneDuty({ duty, sheet, isOpen, onOpen }: DutyProps) {
  const { canEdit } = useDesign();
  const name = duty.name || duty.id;
  return (
    <Stack component="section" aria-label={`Duty ${name}`} sx={{ gap: 0.75 }}>
      {!isOpen && (
        <Stack direction="row" sx={{ alignItems: "baseline", gap: 2 }}>
          <Typography variant="h3" sx={{ fontSize: 19 }}>
            {name}
          </Typography>
          <Typography color="textSecondary">{duty.source}</Typography>
          <Box sx={{ flex: 1 }} />
          {canEdit && (
            <Button onClick={onOpen} aria-label={`Change the duty ${name}`}>
              Change
            </Button>
          )}
        </Stack>
      )}
      {isOpen && <DutyEditor duty={duty} onClose={onOpen} />}
      {sheet && <DutyStrips sheet={sheet} duty={duty.id} />}
    </Stack>
  );
}

/** The sheet as it was answered: a row for each ask and the workloads that meet it alike. */
function saveSheet({ rows }: DutySheet) {
  const columns = ["duty", "source", "asks", "workloads", "verdict", "days_asked", "days_failed"];
  saveTable(
    "duties",
    [...columns, "first_failed", "worst", "reason"],
    rows.map((row) => [
      row.duty_name,
      row.source,
      row.asks,
      row.workload_names.join(", "),
      row.verdict,
      row.days_asked,
      row.days_failed,
      row.first_failed,
      row.worst,
      row.reason,
    ]),
  );
}

function headline(sheet: DutySheet | undefined, count: number): string {
  if (!sheet || count === 0) return "";
  if (sheet.rows.length === 0) return "No workload is named by a duty yet.";
  return sheet.failing === 0
    ? "Every duty holds on every day."
    : `${countText(sheet.failing)} of ${countText(sheet.rows.length)} ${sheet.rows.length === 1 ? "line fails" : "lines fail"}.`;
}

function AddDuty({ onChoose, onClose }: { onChoose: (duty: Duty) => void; onClose: () => void }) {
  const starts = useStartingPoints()?.duties ?? [];
  return (
    <StartDialog
      title="Add a duty"
      hint="Ready-made duties, their sources written down from memory: check the wording yourself. Every value can be edited."
      starts={starts.map(({ duty, fits }) => ({
        name: duty.name ?? "",
        fits: duty.source ? `${fits} ${duty.source}.` : fits,
        value: duty,
      }))}
      onChoose={onChoose}
      onClose={onClose}
    />
  );
}
