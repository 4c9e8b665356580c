import { Button, Dialog, DialogActions, DialogContent, DialogTitle, Stack, Typography } from "@mui/material";
import type { Conflict } from "./useEdits";

/** Shows an edit that came too late beside what somebody else made of the entry, and asks which stays. */
export function ConflictDialog({
  conflict,
  onSettle,
}: {
  conflict: Conflict;
  onSettle: (keepMine: boolean) => void;
}) {
  const theirs = plainFields(conflict.problem.now);
  const mine = plainFields(conflict.mine);
  const names = [...new Set([...Object.keys(theirs), ...Object.keys(mine)])];
  const changed = names.filter((name) => theirs[name] !== mine[name]);
  return (
    <Dialog open onClose={() => onSettle(false)} aria-labelledby="conflict-title" maxWidth="md">
      <DialogTitle id="conflict-title">{conflict.problem.title}</DialogTitle>
      <DialogContent>
        <Typography sx={{ mb: 2 }}>
          Your edit ({conflict.what}) was not saved. Nothing is lost until you choose.
        </Typography>
        <Stack component="dl" spacing={1.5} sx={{ m: 0 }}>
          {changed.map((name) => (
            <div key={name}>
              <Typography component="dt" sx={{ fontWeight: 600 }}>
                {name}
              </Typography>
              <Typography component="dd" color="textSecondary">
                theirs: {theirs[name] ?? "nothing"}
              </Typography>
              <Typography component="dd">yours: {mine[name] ?? "nothing"}</Typography>
            </div>
          ))}
        </Stack>
      </DialogContent>
      <DialogActions>
        <Button onClick={() => onSettle(false)} autoFocus>
          Keep theirs
        </Button>
        <Button onClick={() => onSettle(true)} variant="contained">
          Put mine in its place
        </Button>
      </DialogActions>
    </Dialog>
  );
}

function plainFields(entry: object | null | undefined): Record<string, string> {
  const fields = Object.entries(entry ?? {}).filter(([, value]) => value !== null && !isEmptyList(value));
  return Object.fromEntries(fields.map(([name, value]) => [name, JSON.stringify(value)]));
}

function isEmptyList(value: unknown): boolean {
  return Array.isArray(value) && value.length === 0;
}
