import { Stack, Typography } from "@mui/material";
import { ListOfPoints } from "./PointList";
import { useFilter } from "./useFilter";

/** All points on all targets at the as-of date. */
export function PointsView() {
  const [filter, setFilter] = useFilter();
  return (
    <Stack component="section" aria-label="Points" sx={{ height: "100%", minHeight: 0, py: 1, gap: 0.5 }}>
      <Typography variant="h2" sx={{ px: 2 }}>
        Points on all targets
      </Typography>
      <ListOfPoints target={null} filter={filter} onFilter={setFilter} />
    </Stack>
  );
}
