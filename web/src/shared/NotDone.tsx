import { Button, Typography } from "@mui/material";
import type { JobOut } from "../api/types";
import { Notice } from "./Notice";

interface Props {
  job: JobOut | undefined;
  title: string;
  onAgain: () => void;
}

/** Of long work that has ended without a result: why, and a way to ask for it again. */
export function NotDone({ job, title, onAgain }: Props) {
  return (
    <Notice title={job?.state === "stopped" ? "This was stopped" : title}>
      {job?.failure && <Typography color="textSecondary">{job.failure}</Typography>}
      <Button variant="outlined" sx={{ mt: 2 }} onClick={onAgain}>
        Ask again
      </Button>
    </Notice>
  );
}
