import { Stack, Typography } from "@mui/material";
import { useSearchParams } from "react-router";
import { FIELDS, type Filter } from "./PointFilter";
import { ListOfPoints } from "./PointList";

/** All points on all targets at the as-of date. What is asked for stands in the address, so that a link shows the same. */
export function PointsView() {
  const [search, setSearch] = useSearchParams();
  const filter = Object.fromEntries(
    FIELDS.flatMap((name) => {
      const value = search.get(name);
      return value ? [[name, value]] : [];
    }),
  ) as Filter;
  return (
    <Stack component="section" aria-label="Points" sx={{ height: "100%", minHeight: 0, py: 1, gap: 0.5 }}>
      <Typography variant="h2" sx={{ px: 2 }}>
        Points on all targets
      </Typography>
      <ListOfPoints
        target={null}
        filter={filter}
        onFilter={(next) => setSearch({ ...next }, { replace: true })}
      />
    </Stack>
  );
}
