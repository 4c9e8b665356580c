import { Autocomplete, Box, Button, Stack, TextField, Typography } from "@mui/material";
import { useMemo, useState } from "react";
import type { Protection, RoutePart, RouteReading } from "../../api/types";
import { useDesign } from "../../design/context";
import { useFindings } from "../../design/useFindings";
import { FindingNotes } from "../../shared/FindingNotes";
import { countText } from "../../shared/format";
import { TextWord } from "../../shared/TextWord";
import { OpeningDialog } from "./OpeningDialog";

interface Props {
  route: RoutePart;
  reading: RouteReading | undefined;
  tags: readonly string[];
  onTakeOut: () => void;
}

/** A route: its name, the workloads it takes by tag or by name, and how they are protected. */
export function RouteEditor({ route, reading, tags, onTakeOut }: Props) {
  const { design, canEdit, save } = useDesign();
  const [importing, setImporting] = useState(false);
  const name = route.name || route.id;
  const keep = (change: Partial<RoutePart>, what: string) =>
    save("routes", route.id, { ...route, ...change }, `${name}: ${what}`);
  const opening = (design.document.opening ?? []).filter((one) => one.route === route.id).length;
  const findings = useFindings().filter((one) => one.route === route.id);
  return (
    <Stack component="section" aria-label={`Route ${name}`} sx={{ gap: 1.25 }}>
      <Stack direction="row" sx={{ alignItems: "baseline", gap: 2 }}>
        <TextWord
          heading
          label="Name of the route"
          value={route.name ?? ""}
          disabled={!canEdit}
          width={300}
          onKeep={(text) => keep({ name: text }, `renamed to ${text}`)}
        />
        <Typography color="textSecondary">
          {route.copies.length === 1 ? "1 copy" : `${route.copies.length} copies`}
          {opening > 0 && `, ${countText(opening)} points of opening stock`}
        </Typography>
        <Box sx={{ flex: 1 }} />
        {canEdit && <Button onClick={() => setImporting(true)}>Opening stock</Button>}
        {canEdit && (
          <Button color="error" onClick={onTakeOut}>
            Remove
          </Button>
        )}
      </Stack>
      <Taken route={route} tags={tags} canEdit={canEdit} keep={keep} />
      {(reading?.protection ?? []).map((group) => (
        <ProtectionLine key={group.workloads.join()} group={group} />
      ))}
      <FindingNotes findings={findings} />
      {importing && <OpeningDialog onClose={() => setImporting(false)} />}
    </Stack>
  );
}

function Taken({
  route,
  tags,
  canEdit,
  keep,
}: {
  route: RoutePart;
  tags: readonly string[];
  canEdit: boolean;
  keep: (change: Partial<RoutePart>, what: string) => Promise<boolean>;
}) {
  const { design } = useDesign();
  const { workloads } = design.document;
  const names = useMemo(() => new Map(workloads.map((one) => [one.id, one.name || one.id])), [workloads]);
  const chosen = { ids: route.workloads.ids ?? [], tags: route.workloads.tags ?? [] };
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: "1fr 2fr", gap: 2 }}>
      <Autocomplete
        multiple
        size="small"
        disabled={!canEdit}
        options={[...tags]}
        value={chosen.tags}
        onChange={(_, next) =>
          void keep({ workloads: { ...chosen, tags: next } }, `takes the tags ${next.join(", ") || "none"}`)
        }
        renderInput={(params) => <TextField {...params} label="Takes all workloads tagged" />}
      />
      <Autocomplete
        multiple
        size="small"
        disabled={!canEdit}
        limitTags={6}
        options={workloads.map((one) => one.id)}
        getOptionLabel={(id) => names.get(id) ?? id}
        value={chosen.ids}
        filterOptions={(options, { inputValue }) => {
          const typed = inputValue.toLowerCase();
          const hits = options.filter((id) => (names.get(id) ?? id).toLowerCase().includes(typed));
          return hits.slice(0, 80);
        }}
        onChange={(_, next) =>
          void keep({ workloads: { ...chosen, ids: next } }, `takes ${next.length} workloads by name`)
        }
        renderInput={(params) => <TextField {...params} label="and by name" />}
      />
    </Box>
  );
}

function ProtectionLine({ group }: { group: Protection }) {
  const { design } = useDesign();
  const sites = group.sites.map((id) => design.document.sites.find((site) => site.id === id)?.name || id);
  const holds = group.missing.length === 0;
  const count = group.workloads.length;
  return (
    <Typography sx={{ borderLeft: 3, borderColor: holds ? "success.main" : "error.main", pl: 1.25 }}>
      <b>{holds ? "3-2-1 holds" : `3-2-1 lacks ${group.missing.join(", ")}`}</b> for{" "}
      {count === 1 ? "one workload" : `${count} workloads`}: {group.copies} copies with the original, on{" "}
      {group.media.join(" and ")}, at {sites.join(", ")}; {group.locked ? "one is locked" : "none is locked"}.
    </Typography>
  );
}
