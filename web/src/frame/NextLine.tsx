import { Link, Typography } from "@mui/material";
import { Link as RouterLink, useLocation } from "react-router";
import { useShownFigures } from "../design/context";

/** What the design lacks first, in one quiet line; none once it says something. */
export function NextLine() {
  const next = useShownFigures().consequences?.next_step;
  const { pathname } = useLocation();
  if (!next) return null;
  return (
    <Typography role="status" aria-label="What comes next" color="textSecondary" sx={{ px: 2, pt: 1.5 }}>
      {next.words}{" "}
      {!pathname.startsWith(`/${next.station}`) && (
        <Link component={RouterLink} to={`/${next.station}`}>
          Go there
        </Link>
      )}
    </Typography>
  );
}
