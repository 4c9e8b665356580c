import {
  Button,
  Table,
  TableBody,
  TableCell,
  TableHead,
  TableRow,
  TextField,
  Typography,
} from "@mui/material";
import { useState } from "react";
import type { CasePicture } from "../../api/types";
import { countText, lengthText } from "../../shared/format";
import { saveTable } from "../../shared/saveTable";

const MOST = 60;

/** What is left of every workload, the worst first; a question finds the ones that are asked about. */
export function LeftTable({ found }: { found: CasePicture }) {
  const [asked, setAsked] = useState("");
  const wanted = found.workloads.filter((one) => one.name.toLowerCase().includes(asked.trim().toLowerCase()));
  const nothing = found.workloads.filter((one) => one.loss_seconds === null).length;
  const worst = Math.max(0, ...found.workloads.map((one) => one.loss_seconds ?? 0));
  return (
    <>
      <Typography role="status">
        {nothing === 0
          ? `Something is left of every workload; the most that is lost are ${lengthText(worst)}.`
          : `Nothing is left of ${countText(nothing)} of ${countText(found.workloads.length)} workloads.`}
      </Typography>
      <Button sx={{ float: "right", mt: 1 }} onClick={() => saveLeft(found)}>
        Download as CSV
      </Button>
      <TextField
        size="small"
        label="What is the newest good point of…"
        value={asked}
        onChange={(event) => setAsked(event.target.value)}
        sx={{ my: 1, width: 320 }}
      />
      <Table size="small" aria-label="What is left" sx={{ "& td, & th": { py: "2px" } }}>
        <TableHead>
          <TableRow>
            <TableCell>Workload</TableCell>
            <TableCell>Newest good point</TableCell>
            <TableCell>Kind</TableCell>
            <TableCell>On</TableCell>
            <TableCell align="right">Lost</TableCell>
            <TableCell align="right">Moments left</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {wanted.slice(0, MOST).map((one) => (
            <TableRow key={one.workload}>
              <TableCell component="th" scope="row">
                {one.name}
              </TableCell>
              {one.loss_seconds === null ? (
                <TableCell colSpan={5}>
                  <Typography color="error" component="span" sx={{ fontWeight: 600 }}>
                    Nothing is left.
                  </Typography>{" "}
                  {one.reason}
                </TableCell>
              ) : (
                <>
                  <TableCell>{one.moment}</TableCell>
                  <TableCell>{one.kind}</TableCell>
                  <TableCell>{one.source}</TableCell>
                  <TableCell align="right">{lengthText(one.loss_seconds)}</TableCell>
                  <TableCell align="right">{countText(one.moments)}</TableCell>
                </>
              )}
            </TableRow>
          ))}
        </TableBody>
      </Table>
      {wanted.length > MOST && (
        <Typography color="textSecondary">
          {countText(wanted.length - MOST)} more: ask for one by its name.
        </Typography>
      )}
    </>
  );
}

/** What is left of every workload, as it was answered. */
function saveLeft({ case: name, at, workloads }: CasePicture) {
  saveTable(
    `losses-${name}-${at.slice(0, 10)}`,
    ["workload", "newest_good_point", "kind", "target", "loss_seconds", "moments", "reason"],
    workloads.map((one) => [
      one.name,
      one.moment,
      one.kind,
      one.source,
      one.loss_seconds,
      one.moments,
      one.reason,
    ]),
  );
}
