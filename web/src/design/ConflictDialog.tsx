import { Button, Dialog, DialogActions, DialogContent, DialogTitle, Stack, Typography } from "@mui/material";
import type { StaleEntry } from "../api/types";
import type { Conflict } from "./EditQueue";

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
  const theirs = plainFields(entry.now);
  const own = plainFields(entry.wanted);
  const names = [...new Set([...Object.keys(theirs), ...Object.keys(own)])];
  const changed = names.filter((name) => theirs[name] !== own[name]);
  return (
    <>
      {named && <Typography variant="h3">{entry.key}</Typography>}
      <Stack component="dl" spacing={1.5} sx={{ m: 0, mb: 2 }}>
        {changed.map((name) => (
          <div key={name}>
            <Typography component="dt" sx={{ fontWeight: 600 }}>
              {name}
            </Typography>
            <Typography component="dd" color="textSecondary">
              theirs: {theirs[name] ?? "nothing"}
            </Typography>
            <Typography component="dd">yours: {own[name] ?? "nothing"}</Typography>
          </div>
        ))}
      </Stack>
    </>
  );
}

function plainFields(entry: object | null | undefined): Record<string, string> {
  const fields = Object.entries(entry ?? {}).filter(([, value]) => value !== null && !isEmptyList(value));
  return Object.fromEntries(fields.map(([name, value]) => [name, JSON.stringify(value)]));
}

function isEmptyList(value: unknown): boolean {
  return Array.isArray(value) && value.length === 0;
}
