import { Box, Typography } from "@mui/material";
import { useNavigate } from "react-router";
import type { Protection, RoutePart, RouteReading } from "../../api/types";

interface Props {
  row: number;
  route: RoutePart;
  reading: RouteReading | undefined;
  chosen: boolean;
  focused: boolean;
  onFocus: () => void;
}

/** A route's name, its workloads, and whether 3-2-1 holds for them at the as-of date. */
export function RouteLabel({ row, route, reading, chosen, focused, onFocus }: Props) {
  const navigate = useNavigate();
  const open = () => navigate(`/routes/${encodeURIComponent(route.id)}`);
  const count = reading?.workloads.length ?? 0;
  const groups = reading?.protection ?? [];
  const worst = weakest(groups);
  const words = protectionWords(worst, groups.length > 1 ? count : null);
  return (
    <Box
      role="rowheader"
      tabIndex={focused ? 0 : -1}
      data-cell={`${row}:-1`}
      onFocus={onFocus}
      onClick={open}
      onKeyDown={(event) => event.key === "Enter" && open()}
      title={words}
      sx={{
        px: 1,
        py: 0.25,
        minWidth: 0,
        cursor: "pointer",
        borderLeft: 3,
        borderColor: chosen ? "primary.main" : "transparent",
        "&:focus-visible": { outlineOffset: -2 },
      }}
    >
      <Typography noWrap sx={{ fontWeight: 600, lineHeight: 1.2 }}>
        {route.name || route.id}
      </Typography>
      <Typography noWrap variant="body2" color="textSecondary" sx={{ lineHeight: 1.2 }}>
        {reading ? counted(count, "workload") : "…"}
        {lockWords(worst)}
      </Typography>
      <Typography noWrap variant="body2" color="textSecondary" sx={{ lineHeight: 1.2, fontSize: 12.5 }}>
        {worst && spread(worst)}
      </Typography>
      <Typography
        variant="body2"
        data-protection={route.id}
        title={words}
        sx={{
          lineHeight: 1.15,
          fontSize: 12.5,
          color: worst?.missing.length === 0 ? "success.main" : "error.main",
          display: "-webkit-box",
          WebkitLineClamp: 2,
          WebkitBoxOrient: "vertical",
          overflow: "hidden",
          "@media print": { display: "block" },
        }}
      >
        {words}
      </Typography>
    </Box>
  );
}

function weakest(groups: readonly Protection[]): Protection | null {
  const lacks = (group: Protection) => 10 * group.missing.length - group.copies;
  return [...groups].sort((one, other) => lacks(other) - lacks(one))[0] ?? null;
}

/** Of which workloads it is said, where they are not all protected alike. */
function protectionWords(group: Protection | null, ofAll: number | null): string {
  if (group === null) return "";
  return ofAll === null ? group.verdict : `${group.verdict}, for ${group.workloads.length} of ${ofAll}`;
}

function lockWords(group: Protection | null): string {
  if (group === null) return "";
  return group.locked ? ", locked" : ", none locked";
}

function spread({ copies, media, sites }: Protection): string {
  return `${counted(copies, "copy", "copies")}, ${media.length} media, ${counted(sites.length, "site")}`;
}

function counted(count: number, one: string, several = `${one}s`): string {
  return `${count} ${count === 1 ? one : several}`;
}
