import { Table, TableBody, TableCell, TableHead, TableRow } from "@mui/material";
import type { NightPicture } from "../../api/types";
import { bytesText, lengthText } from "../../shared/format";

const COLUMNS = ["Copy", "Workload", "Kind", "Moves", "Asked", "Started", "Ended", "Held most by", "Late"];

/** The transfers of a night, one a row: the same as the clock shows. */
export function NightTable({ night }: { night: NightPicture }) {
  return (
    <Table
      size="small"
      aria-label={`Transfers of the night of ${night.night}`}
      sx={{ "& td, & th": { py: "2px" } }}
    >
      <TableHead>
        <TableRow>
          {COLUMNS.map((name) => (
            <TableCell key={name} align={name === "Moves" ? "right" : "left"}>
              {name}
            </TableCell>
          ))}
        </TableRow>
      </TableHead>
      <TableBody>
        {night.bundles.flatMap((bundle) =>
          bundle.bars.map((bar) => (
            <TableRow
              key={`${bundle.route} ${bundle.copy} ${bar.workload} ${bar.machine} ${bar.kind} ${bar.asked}`}
            >
              <TableCell component="th" scope="row">
                {bundle.name}
              </TableCell>
              <TableCell>
                {bar.workload_name}
                {bar.machine > 1 ? ` ${bar.machine}` : ""}
              </TableCell>
              <TableCell>{bar.kind}</TableCell>
              <TableCell align="right">{bytesText(bar.moved_bytes)}</TableCell>
              <TableCell sx={{ whiteSpace: "nowrap" }}>{bar.asked_at}</TableCell>
              <TableCell sx={{ whiteSpace: "nowrap" }}>{bar.started_at || "never"}</TableCell>
              <TableCell sx={{ whiteSpace: "nowrap" }}>{bar.ended_at || "never"}</TableCell>
              <TableCell>
                {bar.held[0] ? `${bar.held[0].name}, ${lengthText(bar.held[0].seconds)}` : ""}
              </TableCell>
              <TableCell>{bar.late.join(", ")}</TableCell>
            </TableRow>
          )),
        )}
      </TableBody>
    </Table>
  );
}
