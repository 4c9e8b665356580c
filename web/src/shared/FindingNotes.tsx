import { Box, Typography } from "@mui/material";
import type { Finding } from "../api/types";

/** Slips beside what they are about: a sentence, and the way out. */
export function FindingNotes({ findings }: { findings: readonly Finding[] }) {
  if (findings.length === 0) return null;
  return (
    <Box component="ul" aria-label="Findings" sx={{ m: 0, p: 0, listStyle: "none" }}>
      {findings.map((one) => (
        <Box
          component="li"
          key={one.sentence}
          data-finding={one.kind}
          sx={{ borderLeft: 3, borderColor: "error.main", pl: 1.25, py: 0.25, mb: 0.75 }}
        >
          <Typography>{one.sentence}</Typography>
          <Typography variant="body2" color="textSecondary">
            {one.way_out}
          </Typography>
        </Box>
      ))}
    </Box>
  );
}
