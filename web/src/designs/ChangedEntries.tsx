import { Box, Typography } from "@mui/material";
import type { HistoryStep } from "../api/types";

/** Entries that a step changed or would change, each with its fields before and after, in words. */
export function ChangedEntries({ entries, more }: Pick<HistoryStep, "entries" | "more">) {
  return (
    <>
      {entries.map((entry) => (
        <Box key={`${entry.part}/${entry.key}`} sx={{ pl: 1.5 }}>
          <Typography variant="body2">
            {entry.name} {entry.how}
          </Typography>
          {entry.fields.map(({ field, before, after }) => (
            <Typography key={field} variant="body2" color="textSecondary" sx={{ pl: 1.5 }}>
              {field}: {before} → {after}
            </Typography>
          ))}
        </Box>
      ))}
      {more > 0 && (
        <Typography variant="body2" sx={{ pl: 1.5 }}>
          and {more} more
        </Typography>
      )}
    </>
  );
}
