import { Box, Typography } from "@mui/material";
import type { ComparisonOut } from "../../api/types";

/** The duties of both: as this design stands, and what they were in the other. */
export function ComparedDuties({ found }: { found: ComparisonOut }) {
  const { duties, gone } = found;
  if (duties.length + gone.length === 0) return null;
  return (
    <Box component="section" aria-label="Duties of both">
      <Typography variant="h3">Duties</Typography>
      {duties.map(({ now, before, change }) => (
        <Typography key={now.duty}>
          <b>{now.name}</b> {now.sentence}
          {change && (
            <Typography component="span" color="textSecondary">
              {`; in the other it ${before?.sentence}`}
            </Typography>
          )}
          {!before && (
            <Typography component="span" color="textSecondary">
              ; the other has no such duty
            </Typography>
          )}
        </Typography>
      ))}
      {gone.map((one) => (
        <Typography key={one.duty} color="textSecondary">
          {one.name} stands in the other alone: it {one.sentence}
        </Typography>
      ))}
    </Box>
  );
}
