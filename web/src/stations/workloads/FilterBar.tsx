import { Button, Chip, MenuItem, Stack, TextField, ToggleButton } from "@mui/material";
import { useDesign } from "../../design/context";
import { countText } from "../../shared/format";
import { ColumnsButton } from "./ColumnsButton";
import { ALL_COLUMNS } from "./columns";
import type { Field, Filter } from "./rows";
import type { GridColumns } from "./useGridColumns";

interface Props {
  filter: Filter;
  onFilter: (filter: Filter) => void;
  tags: readonly string[];
  columns: GridColumns;
  /** How many workloads no route takes; null while that is not known. */
  untaken: number | null;
}

interface Acts {
  onAdd: () => void;
  onImport: () => void;
  onSizing: () => void;
  onDetails: () => void;
}

/** What can be done with workloads, beside their heading. */
export function GridActs({ onAdd, onImport, onSizing, onDetails }: Acts) {
  const { canEdit } = useDesign();
  if (!canEdit) return null;
  return (
    <Stack direction="row" sx={{ ml: "auto", flexWrap: "wrap" }}>
      <Button onClick={onDetails}>Show details</Button>
      <Button onClick={onSizing}>Measure a workload</Button>
      <Button onClick={onImport}>Import a table</Button>
      <Button onClick={onAdd} variant="outlined">
        Add a workload
      </Button>
    </Stack>
  );
}

/** What the grid shows. */
export function FilterBar(props: Props) {
  const { filter, onFilter, tags, columns, untaken } = props;
  const { design } = useDesign();
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
      <ValueChips filter={filter} onFilter={onFilter} />
      <ColumnsButton columns={columns} />
    </Stack>
  );
}

/** What columns must say, each with a way to let it be. */
function ValueChips({ filter, onFilter }: Pick<Props, "filter" | "onFilter">) {
  const { design } = useDesign();
  return Object.entries(filter.values).map(([field, value]) => {
    const name = ALL_COLUMNS.find((column) => column.field === field)?.name ?? field;
    const site = field === "site" ? design.document.sites.find((one) => one.id === value)?.name : null;
    const { [field as Field]: _, ...further } = filter.values;
    const letBe = () => onFilter({ ...filter, values: further });
    return (
      <Chip
        key={field}
        label={`${name}: ${site || value || "empty"}`}
        variant="outlined"
        onClick={letBe}
        onDelete={letBe}
        aria-label={`${name} says ${site || value || "nothing"}: show rows with anything`}
      />
    );
  });
}
