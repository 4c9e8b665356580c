import { Box, Stack } from "@mui/material";
import { memo } from "react";
import { NavLink } from "react-router";

interface Props {
  label: string;
  views: readonly { path: string; name: string; end: boolean }[];
}

/** The views of a station by name; another as-of date changes nothing about them. */
export const ViewNames = memo(function ViewNames({ label, views }: Props) {
  return (
    <Stack
      direction="row"
      component="nav"
      aria-label={label}
      sx={{ columnGap: 3, alignItems: "center", flexWrap: "wrap" }}
    >
      {views.map(({ path, name, end }) => (
        <Box
          key={path}
          component={NavLink}
          to={path}
          end={end}
          sx={{
            color: "text.secondary",
            textDecoration: "none",
            py: 0.25,
            "&.active": { color: "text.primary", fontWeight: 600 },
            "&:hover": { color: "primary.main" },
          }}
        >
          {name}
        </Box>
      ))}
    </Stack>
  );
});
