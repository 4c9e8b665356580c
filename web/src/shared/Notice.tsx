import { Box, Button, Typography } from "@mui/material";
import { ProblemError } from "../api/client";

/** A whole area that has nothing else to show: loading, empty, or failed with what to do next. */
export function Notice({
  title,
  error,
  children,
}: {
  title: string;
  error?: unknown;
  children?: React.ReactNode;
}) {
  const words = error instanceof ProblemError ? error.words : error instanceof Error ? error.message : null;
  return (
    <Box role={error ? "alert" : "status"} sx={{ p: 6, textAlign: "center", m: "auto" }}>
      <Typography variant="h2" component="p">
        {title}
      </Typography>
      {words && <Typography color="textSecondary">{words}</Typography>}
      {error ? (
        <Button sx={{ mt: 2 }} onClick={() => window.location.reload()}>
          Try again
        </Button>
      ) : null}
      {children}
    </Box>
  );
}
