import { Box, Button, Stack, Typography } from "@mui/material";
import { NavLink } from "react-router";
import { useDesign } from "../../design/context";
import { type Term, Word } from "../../shared/Word";

interface Props {
  title: string;
  /** What the entries are. */
  term: Term;
  /** Where the entries have their pages. */
  path: string;
  entries: readonly { id: string; name?: string }[];
  chosen: string | undefined;
  addLabel: string;
  onAdd: () => void;
}

/** The head of a view that shows one of several entries: their names, the chosen one underlined, and a way to add one. */
export function EntriesHead({ title, term, path, entries, chosen, addLabel, onAdd }: Props) {
  const { canEdit } = useDesign();
  return (
    <Stack direction="row" sx={{ alignItems: "center", gap: 2, flexWrap: "wrap" }}>
      <Typography variant="h2">
        <Word term={term}>{title}</Word>
      </Typography>
      {entries.map((one) => (
        <Box
          key={one.id}
          component={NavLink}
          to={`${path}/${encodeURIComponent(one.id)}`}
          aria-current={one.id === chosen ? "page" : undefined}
          sx={{
            color: "text.primary",
            textDecoration: "none",
            borderBottom: 2,
            borderColor: one.id === chosen ? "primary.main" : "transparent",
          }}
        >
          {one.name || one.id}
        </Box>
      ))}
      <Box sx={{ flex: 1 }} />
      {canEdit && (
        <Button variant="outlined" onClick={onAdd}>
          {addLabel}
        </Button>
      )}
    </Stack>
  );
}
