import { Box, Table, TableBody, TableCell, TableHead, TableRow, Typography } from "@mui/material";
import type { Overview } from "../../api/types";
import { notFullBy } from "../../design/useNotFull";
import { bytesText, countText, moneyText, percentText, writtenDate } from "../../shared/format";

/** The overview in figures: today, at the chosen date, at the peak, at the end. */
export function OverviewTable({ overview }: { overview: Overview }) {
  const notFull = notFullBy(overview.end);
  return (
    <Box
      tabIndex={0}
      role="region"
      aria-label="Figures"
      sx={{ flex: 1, minHeight: 0, overflow: "auto", px: 2 }}
    >
      <Table size="small" stickyHeader aria-label="All targets in figures">
        <TableHead>
          <TableRow>
            <TableCell>target</TableCell>
            <TableCell align="right">{writtenDate(overview.today)}</TableCell>
            <TableCell align="right">{writtenDate(overview.on)}</TableCell>
            <TableCell align="right">peak</TableCell>
            <TableCell align="right">of its room</TableCell>
            <TableCell align="right">{writtenDate(overview.end)}</TableCell>
            <TableCell>full on</TableCell>
            <TableCell align="right">that month</TableCell>
            <TableCell align="right">all years</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {overview.rows.map((row) => (
            <TableRow key={row.target} data-target={row.target}>
              <TableCell component="th" scope="row">
                {row.name}
              </TableCell>
              <Both points={row.points_today} bytes={row.stored_today} />
              <Both points={row.points_on} bytes={row.stored_on} name="on" />
              <TableCell align="right">
                {bytesText(row.peak)}
                <Typography variant="body2" color="textSecondary">
                  {writtenDate(row.peak_on)}
                </Typography>
              </TableCell>
              <TableCell align="right">{row.fill === null ? "" : percentText(row.fill ?? 0)}</TableCell>
              <Both points={row.points_end} bytes={row.stored_end} />
              <TableCell sx={{ color: row.full_on ? "error.main" : "text.secondary" }}>
                {row.full_on ? writtenDate(row.full_on) : row.room_on === null ? "grows with use" : notFull}
              </TableCell>
              <TableCell align="right">{moneyText(row.cost_month, overview.currency)}</TableCell>
              <TableCell align="right">{moneyText(row.cost_whole, overview.currency)}</TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Box>
  );
}

function Both({ points, bytes, name }: { points: number; bytes: number; name?: string }) {
  return (
    <TableCell align="right">
      <span data-figure={name && `stored-${name}`}>{bytesText(bytes)}</span>
      <Typography variant="body2" color="textSecondary">
        {countText(points)} points
      </Typography>
    </TableCell>
  );
}
