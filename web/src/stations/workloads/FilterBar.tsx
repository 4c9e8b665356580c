import { Button, MenuItem, Stack, TextField, ToggleButton } from "@mui/material";
import { useDesign } from "../../design/context";
import { countText } from "../../shared/format";
import type { Filter } from "./rows";

interface Props {
  filter: Filter;
  onFilter: (filter: Filter) => void;
  tags: readonly string[];
  /** How many workloads no route takes; null while that is not known. */
  untaken: number | null;
  onAdd: () => void;
  onImport: () => void;
  onSizing: () => void;
  onDetails: () => void;
}

/** What the grid shows, and what can be brought into it. */
export function FilterBar({ filter, onFilter, tags, untaken, onAdd, onImport, onSizing, onDetails }: Props) {
  const { design, canEdit } = useDesign();
  const field = { size: "small" as const, slotProps: { inputLabel: { shrink: true } } };
  return (
    <Stack direction="row" sx={{ gap: 1, alignItems: "center", flexWrap: "wrap" }}>
      <TextField
        {...field}
        label="Names and tags with"
        value={filter.text}
        onChange={(event) => onFilter({ ...filter, text: event.target.value })}
        sx={{ width: 150 }}
      />
      <TextField
        {...field}
        select
        label="Site"
        value={filter.site}
        onChange={(event) => onFilter({ ...filter, site: event.target.value })}
        sx={{ width: 112 }}
        slotProps={{ inputLabel: { shrink: true }, select: { displayEmpty: true } }}
      >
        <MenuItem value="">all sites</MenuItem>
        {design.document.sites.map((site) => (
          <MenuItem key={site.id} value={site.id}>
            {site.name || site.id}
          </MenuItem>
        ))}
      </TextField>
      <TextField
        select
        size="small"
        label="Tag"
        value={filter.tag}
        onChange={(event) => onFilter({ ...filter, tag: event.target.value })}
        sx={{ width: 112 }}
        slotProps={{ inputLabel: { shrink: true }, select: { displayEmpty: true } }}
      >
        <MenuItem value="">all tags</MenuItem>
        {tags.map((tag) => (
          <MenuItem key={tag} value={tag}>
            {tag}
          </MenuItem>
        ))}
      </TextField>
      <ToggleButton
        value="untaken"
        size="small"
        selected={filter.untaken}
        disabled={!untaken && !filter.untaken}
        onChange={() => onFilter({ ...filter, untaken: !filter.untaken })}
        sx={{ textTransform: "none", color: untaken ? "error.main" : "text.secondary" }}
      >
        {untaken === null ? "…" : countText(untaken)} on no route
      </ToggleButton>
      {canEdit && (
        <Stack direction="row" sx={{ ml: "auto" }}>
          <Button onClick={onDetails}>Details</Button>
          <Button onClick={onSizing}>Sizing help</Button>
          <Button onClick={onImport}>Import a table</Button>
          <Button onClick={onAdd} variant="outlined">
            Add
          </Button>
        </Stack>
      )}
    </Stack>
  );
}
