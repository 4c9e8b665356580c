import { Box, Typography } from "@mui/material";
import type { ReactNode } from "react";

/** What was answered last, while what is newer is worked out: said in words, since nobody reads faded letters. */
export function Anew({ waits, children }: { waits: boolean; children: ReactNode }) {
  return (
    <Box aria-busy={waits} sx={{ position: "relative" }}>
      {waits && (
        <Typography
          role="status"
          variant="body2"
          sx={{
            position: "absolute",
            zIndex: 1,
            top: 0,
            right: 0,
            px: 1,
            bgcolor: "background.default",
            color: "text.secondary",
          }}
        >
          Working it out anew…
        </Typography>
      )}
      {children}
    </Box>
  );
}
