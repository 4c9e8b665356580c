import { Autocomplete, Box, TextField } from "@mui/material";
import { useMemo } from "react";
import type { Selection } from "../api/types";
import { useDesign } from "../design/context";

interface Props {
  label: string;
  chosen: Selection;
  onKeep: (chosen: Selection, what: string) => Promise<boolean>;
}

/** Workloads by tag and by name. */
export function ChosenWorkloads({ label, chosen, onKeep }: Props) {
  const { design, canEdit } = useDesign();
  const { workloads } = design.document;
  const names = useMemo(() => new Map(workloads.map((one) => [one.id, one.name || one.id])), [workloads]);
  const tags = useMemo(() => [...new Set(workloads.flatMap((one) => one.tags ?? []))].sort(), [workloads]);
  const now = { ids: chosen.ids ?? [], tags: chosen.tags ?? [] };
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: "1fr 2fr", gap: 2, maxWidth: 900 }}>
      <Autocomplete
        multiple
        size="small"
        disabled={!canEdit}
        options={tags}
        value={now.tags}
        onChange={(_, next) =>
          void onKeep({ ...now, tags: next }, `of the tags ${next.join(", ") || "none"}`)
        }
        renderInput={(params) => <TextField {...params} label={`Workloads tagged, ${label}`} />}
      />
      <Autocomplete
        multiple
        size="small"
        disabled={!canEdit}
        limitTags={6}
        options={workloads.map((one) => one.id)}
        getOptionLabel={(id) => names.get(id) ?? id}
        value={now.ids}
        onChange={(_, next) => void onKeep({ ...now, ids: next }, `of ${next.length} workloads by name`)}
        renderInput={(params) => <TextField {...params} label={`Workloads by name, ${label}`} />}
      />
    </Box>
  );
}
