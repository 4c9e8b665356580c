import { Button, LinearProgress, Stack, Typography } from "@mui/material";
import type { JobOut } from "../../api/types";

/** How far long work is, with a way to stop it. */
export function Progress({ job, what, onStop }: { job: JobOut; what: string; onStop: () => void }) {
  const waits = job.state === "waiting";
  return (
    <Stack direction="row" sx={{ alignItems: "center", gap: 2, maxWidth: 520 }} role="status">
      <Typography sx={{ flexShrink: 0 }}>
        {waits ? `${what}: in line` : `${what}: ${job.done} of ${job.of}`}
      </Typography>
      <LinearProgress
        variant={waits ? "indeterminate" : "determinate"}
        value={(100 * job.done) / Math.max(1, job.of)}
        aria-label={what}
        sx={{ flex: 1 }}
      />
      <Button onClick={onStop}>Stop</Button>
    </Stack>
  );
}
