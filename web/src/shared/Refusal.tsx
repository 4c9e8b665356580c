import { Typography } from "@mui/material";
import { ProblemError } from "../api/client";

/** Why something was refused, in the server's words. */
export function Refusal({ error }: { error: unknown }) {
  if (!error) return null;
  return (
    <Typography role="alert" color="error" sx={{ mt: 1 }}>
      {error instanceof ProblemError ? error.words : "This cannot be read"}
    </Typography>
  );
}
