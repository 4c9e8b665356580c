import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle, Typography } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useDesign } from "../../design/context";
import { goesOn, stopJob, useAskForJob, useJobState } from "../../design/useJob";
import { writtenDate } from "../../shared/format";
import { Notice } from "../../shared/Notice";
import { Progress } from "./Progress";

const FILES = [
  {
    file: "report.pdf",
    name: "The report to print",
    says: "PDF with pictures, assumptions, date and the design's digest",
  },
  { file: "report.html", name: "The report to read on a screen", says: "one HTML page that stands alone" },
  {
    file: "forecast.xlsx",
    name: "The workbook",
    says: "inputs, months, cost and the list of points, with formulas for the sums",
  },
  {
    file: "series.parquet",
    name: "Every day of every target",
    says: "Parquet, for programs that read large series",
  },
];
const TABLES = [
  { table: "targets", name: "All targets" },
  { table: "series", name: "Every day" },
  { table: "points", name: "The list of points" },
  { table: "cost", name: "Cost by month" },
  { table: "duties", name: "Duties" },
  { table: "nights", name: "Nights" },
  { table: "speeds", name: "Speeds" },
  { table: "workloads", name: "Workloads" },
  { table: "opening", name: "Opening stock" },
];

/** What can be taken away of a forecast, as files. */
export function DownloadDialog() {
  const { design, on } = useDesign();
  const [open, setOpen] = useState(false);
  const at = (path: string) => `/api/designs/${design.id}/${path}?on=${on}`;
  return (
    <>
      <Button onClick={() => setOpen(true)}>Download</Button>
      <Dialog
        open={open}
        onClose={() => setOpen(false)}
        aria-labelledby="download-title"
        maxWidth="sm"
        fullWidth
      >
        <DialogTitle id="download-title">Download the forecast</DialogTitle>
        <DialogContent>
          <Typography color="textSecondary" sx={{ mb: 1 }}>
            As of the end of {writtenDate(on)}. Each file carries the design's digest, a table its first
            twelve digits in its name, so that a number can be traced to its design.
          </Typography>
          {FILES.map(({ file, name, says }) => (
            <MadeFile key={`${file} ${on} ${design.revision}`} file={file} name={name} says={says} />
          ))}
          <Typography sx={{ borderTop: 1, borderColor: "divider", py: 0.5 }}>
            <Button component="a" href={`/api/designs/${design.id}/calendar.ics`} download>
              The calendar
            </Button>{" "}
            all runs, copies, step-downs, tape changes and full-on dates; to subscribe to it, make a token for
            calendars in the menu of the design
          </Typography>
          <Typography sx={{ borderTop: 1, borderColor: "divider", py: 0.5 }}>
            As CSV:
            {TABLES.map(({ table, name }) => (
              <Button key={table} component="a" href={at(`tables/${table}.csv`)} download>
                {name}
              </Button>
            ))}
          </Typography>
        </DialogContent>
        <DialogActions>
          <Button onClick={() => setOpen(false)}>Close</Button>
        </DialogActions>
      </Dialog>
    </>
  );
}

/** A file that is made in the background, and comes down when it is there. */
function MadeFile({ file, name, says }: (typeof FILES)[number]) {
  const ask = useAskForJob();
  const [key, setKey] = useState<string>();
  const begin = useMutation({
    mutationFn: () => ask({ kind: "file", file }),
    onSuccess: (job) => setKey(job.id),
  });
  const { data: job, error } = useJobState(key);
  const isThere = key !== undefined && job?.state === "done";
  useEffect(() => {
    if (isThere) download(`/api/jobs/${key}/file`);
  }, [isThere, key]);
  const refused = begin.error ?? error;
  return (
    <Box sx={{ borderTop: 1, borderColor: "divider", py: 0.5 }}>
      <Button
        disabled={begin.isPending || goesOn(job)}
        onClick={() => (isThere ? download(`/api/jobs/${key}/file`) : begin.mutate())}
      >
        {name}
      </Button>{" "}
      {says}
      {job && goesOn(job) && <Progress job={job} what="Being made" onStop={() => stopJob(job.id)} />}
      {job?.state === "stopped" && <Typography role="status">Stopped; nothing was made.</Typography>}
      {job?.state === "failed" && <Notice title="This file cannot be made">{job.failure}</Notice>}
      {refused && <Notice title="This file cannot be made" error={refused} />}
    </Box>
  );
}

function download(address: string) {
  const link = document.createElement("a");
  link.href = address;
  link.download = "";
  link.click();
}
