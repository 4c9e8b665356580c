import { Button, Dialog, DialogActions, DialogContent, DialogTitle, Typography } from "@mui/material";
import { useState } from "react";
import { useFindings } from "../../design/useFindings";
import { FaultyRows } from "../../shared/FaultyRows";
import { FindingNotes } from "../../shared/FindingNotes";
import { countText } from "../../shared/format";
import type { Refused } from "./usePaste";

export function WorkloadFindings({ id }: { id: string }) {
  const findings = useFindings().filter((one) => one.workload === id);
  return <FindingNotes findings={findings} />;
}

/** A pasted block with faults: every row at fault is named, and nothing is saved until the person says so. */
export function RefusedPaste({
  refused,
  onSettle,
}: {
  refused: Refused;
  onSettle: (leaveOut: boolean) => void;
}) {
  const [leaveOut, setLeaveOut] = useState(false);
  const rows = refused.read?.rows.length ?? 0;
  return (
    <Dialog open onClose={() => onSettle(false)} aria-labelledby="paste-title" fullWidth maxWidth="sm">
      <DialogTitle id="paste-title">Nothing was pasted</DialogTitle>
      <DialogContent>
        <Typography>{refused.words || `${countText(rows)} rows can be read, these cannot:`}</Typography>
        <FaultyRows faults={refused.read?.faults ?? []} leaveOut={leaveOut} onLeaveOut={setLeaveOut} />
      </DialogContent>
      <DialogActions>
        <Button onClick={() => onSettle(false)}>Cancel</Button>
        {rows > 0 && (
          <Button variant="contained" disabled={!leaveOut} onClick={() => onSettle(true)}>
            Paste the others
          </Button>
        )}
      </DialogActions>
    </Dialog>
  );
}
