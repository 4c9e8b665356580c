import { Box, Table, TableBody, TableCell, TableHead, TableRow, Typography } from "@mui/material";
import type { DocumentRead } from "../api/types";
import { bytesText, countText, writtenDate } from "../shared/format";

/** What a document is and what it comes to, before it becomes anything. */
export function DocumentPreview({ read, instead }: { read: DocumentRead; instead: string | null }) {
  const parts = Object.entries(read.counts)
    .filter(([, count]) => count > 0)
    .map(([part, count]) => `${countText(count)} ${part}`);
  return (
    <Box data-testid="document-read" sx={{ mt: 1.5 }}>
      <Typography>
        <b>{read.name}</b> is sound: {parts.join(", ") || "nothing in it yet"}
        {read.findings > 0 ? `; ${countText(read.findings)} findings` : ""}.
      </Typography>
      <Typography variant="body2" color="textSecondary" sx={{ overflowWrap: "anywhere" }}>
        Digest {read.digest}
      </Typography>
      {instead !== null && <Changes read={read} instead={instead} />}
      {read.targets.length > 0 && <Peaks read={read} />}
    </Box>
  );
}

function Peaks({ read }: { read: DocumentRead }) {
  return (
    <Table size="small" aria-label="What it comes to" sx={{ mt: 1 }}>
      <TableHead>
        <TableRow>
          <TableCell>target</TableCell>
          <TableCell align="right">highest peak</TableCell>
          <TableCell>full</TableCell>
        </TableRow>
      </TableHead>
      <TableBody>
        {read.targets.map((one) => (
          <TableRow key={one.target}>
            <TableCell component="th" scope="row">
              {one.name}
            </TableCell>
            <TableCell align="right">{bytesText(one.peak_bytes)}</TableCell>
            <TableCell>
              {one.full_on
                ? writtenDate(one.full_on)
                : one.capacity_bytes === null
                  ? "grows with use"
                  : "not full in its years"}
            </TableCell>
          </TableRow>
        ))}
      </TableBody>
    </Table>
  );
}

function Changes({ read, instead }: { read: DocumentRead; instead: string }) {
  if (read.differences.length === 0)
    return <Typography sx={{ mt: 1 }}>It is the same as {instead}: nothing would change.</Typography>;
  return (
    <Box sx={{ mt: 1 }}>
      <Typography>In the place of {instead}, this would change:</Typography>
      <Box component="ul" aria-label="What would change" sx={{ m: 0, pl: 2.5 }}>
        {read.differences.map((one) => (
          <li key={`${one.part}/${one.key}`}>
            {one.part}: {one.name} {one.how}
          </li>
        ))}
        {read.more > 0 && <li>and {countText(read.more)} more</li>}
      </Box>
    </Box>
  );
}
