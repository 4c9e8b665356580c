import {
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  Table,
  TableBody,
  TableCell,
  TableHead,
  TableRow,
  Typography,
} from "@mui/material";
import type { CalendarRead } from "../../api/types";
import { countText } from "../../shared/format";

interface Props {
  read: CalendarRead;
  /** The design's zone, in which a run is unless it names one of its own. */
  zone: string;
  onTake: () => void;
  onClose: () => void;
}

/** What the events of a calendar would be as a cadence, before they become one. */
export function CalendarDialog({ read, zone, onTake, onClose }: Props) {
  const zones = new Map(read.cadence.runs.map((run) => [run.id, run.timezone ?? zone]));
  return (
    <Dialog open onClose={onClose} aria-labelledby="calendar-title" fullWidth maxWidth="md">
      <DialogTitle id="calendar-title">{read.cadence.name}, from a calendar</DialogTitle>
      <DialogContent>
        <Typography color="textSecondary" sx={{ mb: 1 }}>
          Each event would be a run of a new cadence. What kind it is, is said by the event's category, else
          by a word of its title, else it is a full; it can be changed afterwards. Nothing is changed before
          you say so.
        </Typography>
        <Table size="small" aria-label="Runs of the calendar">
          <TableHead>
            <TableRow>
              <TableCell>event</TableCell>
              <TableCell>kind</TableCell>
              <TableCell>when</TableCell>
              <TableCell align="right">times</TableCell>
              <TableCell>first</TableCell>
              <TableCell>last</TableCell>
            </TableRow>
          </TableHead>
          <TableBody>
            {read.runs.map((run) => (
              <TableRow key={run.id}>
                <TableCell component="th" scope="row">
                  {run.name || run.id}
                </TableCell>
                <TableCell>{run.kind}</TableCell>
                <TableCell>
                  {run.sentence}
                  {zones.get(run.id) === zone ? "" : `, ${zones.get(run.id)}`}
                </TableCell>
                <TableCell align="right">{countText(run.count)}</TableCell>
                <TableCell sx={{ whiteSpace: "nowrap" }}>
                  {run.first?.replace("T", " ") ?? "never in this design"}
                </TableCell>
                <TableCell sx={{ whiteSpace: "nowrap" }}>{run.last?.replace("T", " ") ?? ""}</TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Cancel</Button>
        <Button variant="contained" onClick={onTake}>
          Make it a cadence
        </Button>
      </DialogActions>
    </Dialog>
  );
}
