import { Table, TableBody, TableCell, TableHead, TableRow } from "@mui/material";
import type { DetailSeries } from "../../api/types";
import { useDesign } from "../../design/context";
import { bytesText, countText } from "../../shared/format";

/** The days of a target's chart in figures. */
export function SeriesTable({ series }: { series: DetailSeries }) {
  const { days } = useDesign();
  const columns: [string, (at: number) => string][] = [
    ["points", (at) => countText(series.points[at] ?? 0)],
    ["stored", (at) => bytesText(series.stored_bytes[at] ?? 0)],
    ["peak", (at) => bytesText(series.peak_bytes[at] ?? 0)],
    ["room", (at) => (series.room_bytes ? bytesText(Math.max(0, series.room_bytes[at] ?? 0)) : "")],
    ["stand for", (at) => bytesText(series.logical_bytes[at] ?? 0)],
    ["moved that day", (at) => bytesText(series.moved_bytes[at] ?? 0)],
    ["cannot be freed", (at) => bytesText(series.least_bytes[at] ?? 0)],
  ];
  return (
    <Table size="small" stickyHeader aria-label="The chart in figures">
      <TableHead>
        <TableRow>
          <TableCell>day</TableCell>
          {columns.map(([name]) => (
            <TableCell key={name} align="right">
              {name}
            </TableCell>
          ))}
        </TableRow>
      </TableHead>
      <TableBody>
        {series.places.map((place, at) => (
          <TableRow key={place}>
            <TableCell component="th" scope="row">
              {days.dates[place]}
            </TableCell>
            {columns.map(([name, text]) => (
              <TableCell key={name} align="right">
                {text(at)}
              </TableCell>
            ))}
          </TableRow>
        ))}
      </TableBody>
    </Table>
  );
}
