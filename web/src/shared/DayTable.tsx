import { Table, TableBody, TableCell, TableHead, TableRow } from "@mui/material";

interface Props {
  label: string;
  /** What the rows are, and each by its name. */
  head: string;
  rows: string[];
  /** The name of each column, and what it says in a row. */
  columns: [string, (at: number) => string][];
}

/** A chart through time in figures: a row for each of its days or months. */
export function DayTable({ label, head, rows, columns }: Props) {
  return (
    <Table size="small" stickyHeader aria-label={label} sx={{ "& td, & th": { py: "2px" } }}>
      <TableHead>
        <TableRow>
          <TableCell>{head}</TableCell>
          {columns.map(([name]) => (
            <TableCell key={name} align="right">
              {name}
            </TableCell>
          ))}
        </TableRow>
      </TableHead>
      <TableBody>
        {rows.map((row, at) => (
          <TableRow key={row}>
            <TableCell component="th" scope="row" sx={{ whiteSpace: "nowrap" }}>
              {row}
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
