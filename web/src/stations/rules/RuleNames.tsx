import { Box, Button, Stack } from "@mui/material";
import { Link } from "react-router";

interface Props {
  what: string;
  base: string;
  chosen: string;
  entries: readonly { id: string; name?: string }[];
  onAdd: (() => void) | null;
}

/** The rules of one kind by name, in a line that wraps. */
export function RuleNames({ what, base, chosen, entries, onAdd }: Props) {
  return (
    <Stack
      component="nav"
      aria-label={what}
      direction="row"
      sx={{ flexWrap: "wrap", gap: 0.75, alignItems: "center" }}
    >
      {entries.map((entry) => (
        <Box
          key={entry.id}
          component={Link}
          to={`${base}/${encodeURIComponent(entry.id)}`}
          aria-current={entry.id === chosen ? "page" : undefined}
          sx={{
            px: 1.25,
            py: 0.4,
            border: 1,
            borderRadius: 1,
            textDecoration: "none",
            color: entry.id === chosen ? "primary.contrastText" : "text.primary",
            bgcolor: entry.id === chosen ? "primary.main" : "background.paper",
            borderColor: entry.id === chosen ? "primary.main" : "divider",
          }}
        >
          {entry.name || entry.id}
        </Box>
      ))}
      {onAdd && <Button onClick={onAdd}>Add a {what.toLowerCase().replace(/s$/, "")}</Button>}
    </Stack>
  );
}
