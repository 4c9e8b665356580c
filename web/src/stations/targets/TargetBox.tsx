import { Box, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import { Link } from "react-router";
import type { Target } from "../../api/types";
import { useShownFigures } from "../../design/context";
import { useNotFull } from "../../design/useNotFull";
import { bytesText, percentText, writtenDate } from "../../shared/format";
import { MEDIA } from "./words";

const WIDTH = 128;
const HEIGHT = 98;

/** A target as a box that fills: what it holds at the as-of date against its room, and when it is full. */
export function TargetBox({ target, chosen }: { target: Target; chosen: boolean }) {
  const notFull = useNotFull();
  const { consequences } = useShownFigures();
  const { inks } = useTheme();
  const now = consequences?.targets.find((one) => one.now.target === target.id)?.now;
  const share = now?.room_bytes ? now.stored_bytes / now.room_bytes : null;
  const ink = share !== null && share > 1 ? inks.brick : null;
  return (
    <Box
      component={Link}
      to={`/targets/${encodeURIComponent(target.id)}`}
      aria-current={chosen ? "page" : undefined}
      data-target={target.id}
      sx={{
        position: "relative",
        display: "flex",
        flexDirection: "column",
        width: WIDTH,
        height: HEIGHT,
        p: 0.75,
        overflow: "hidden",
        color: "text.primary",
        textDecoration: "none",
        bgcolor: "background.paper",
        border: 1,
        borderColor: chosen ? "primary.main" : "divider",
        borderBottom: 0,
        // Space that is rented as it is needed has no lid.
        borderTopStyle: share === null ? "dashed" : "solid",
        outline: chosen ? "1px solid" : "none",
        outlineColor: "primary.main",
        "&:hover": { borderColor: "primary.main" },
      }}
    >
      <Box
        aria-hidden="true"
        sx={{
          position: "absolute",
          left: 0,
          right: 0,
          bottom: 0,
          height: `${100 * Math.min(1, share ?? 0)}%`,
          bgcolor: ink ?? inks.ramp[2],
          opacity: 0.28,
          borderTop: `1.5px solid ${ink ?? inks.plum}`,
        }}
      />
      <Typography sx={{ fontWeight: 600, lineHeight: 1.15, position: "relative" }}>
        {target.name || target.id}
      </Typography>
      <Typography variant="body2" sx={{ position: "relative", color: "text.primary" }}>
        {MEDIA[target.media]}
      </Typography>
      <Box sx={{ flex: 1 }} />
      <Typography variant="body2" sx={{ position: "relative", lineHeight: 1.2 }} data-figure="stored">
        {now && storedWords(now.stored_bytes, share)}
      </Typography>
      <Typography variant="body2" sx={{ position: "relative", lineHeight: 1.2, fontSize: 12.5 }}>
        {fullWords(now?.full_on, share !== null, notFull)}
      </Typography>
    </Box>
  );
}

function fullWords(fullOn: string | null | undefined, hasRoom: boolean, notFull: string): string {
  if (fullOn) return `full ${writtenDate(fullOn)}`;
  return hasRoom ? notFull : "grows with use";
}

function storedWords(bytes: number, share: number | null): string {
  return share === null ? bytesText(bytes) : `${bytesText(bytes)}, ${percentText(share)}`;
}
