import { Button, LinearProgress, Stack, Typography } from "@mui/material";
import type { WorkOut } from "../../api/types";

/** How far long work is, with a way to stop it. */
export function Progress({ work, what, onStop }: { work: WorkOut; what: string; onStop: () => void }) {
  return (
    <Stack direction="row" sx={{ alignItems: "center", gap: 2, maxWidth: 520 }} role="status">
      <Typography sx={{ flexShrink: 0 }}>
        {what}: {work.done} of {work.of}
      </Typography>
      <LinearProgress
        variant="determinate"
        value={(100 * work.done) / Math.max(1, work.of)}
        aria-label={what}
        sx={{ flex: 1 }}
      />
      <Button onClick={onStop}>Stop</Button>
    </Stack>
  );
}
