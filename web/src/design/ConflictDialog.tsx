import { Button, Dialog, DialogActions, DialogContent, DialogTitle, Stack, Typography } from "@mui/material";
import type { StaleEntry } from "../api/types";
import type { Conflict } from "./editing";

const SHOWN = 5;

/** Shows an edit that came too late beside what somebody else made of the entries, and asks which stays. */
export function ConflictDialog({
  conflict,
  onSettle,
}: {
  conflict: Conflict;
  onSettle: (keepMine: boolean) => void;
}) {
  const entries = conflict.problem.entries ?? [];
  return (
    <Dialog open onClose={() => onSettle(false)} aria-labelledby="conflict-title" maxWidth="md">
      <DialogTitle id="conflict-title">{conflict.problem.title}</DialogTitle>
      <DialogContent>
        <Typography sx={{ mb: 2 }}>
          Your edit ({conflict.what}) was not saved. Nothing is lost until you choose.
        </Typography>
        {entries.slice(0, SHOWN).map((entry) => (
          <Differences key={`${entry.part}/${entry.key}`} entry={entry} named={entries.length > 1} />
        ))}
        {entries.length > SHOWN && <Typography>And {entries.length - SHOWN} more.</Typography>}
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

function Differences({ entry, named }: { entry: StaleEntry; named: boolean }) {
  return (
    <>
      {named && <Typography variant="h3">{entry.key}</Typography>}
      <Stack component="dl" spacing={1.5} sx={{ m: 0, mb: 2 }}>
        {entry.fields.map(({ field, before, after }) => (
          <div key={field}>
            <Typography component="dt" sx={{ fontWeight: 600 }}>
              {field}
            </Typography>
            <Typography component="dd" color="textSecondary">
              theirs: {before}
            </Typography>
            <Typography component="dd">yours: {after}</Typography>
          </div>
        ))}
      </Stack>
    </>
  );
}
