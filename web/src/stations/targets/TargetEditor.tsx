import { Box, Button, Stack, Typography } from "@mui/material";
import type { Target } from "../../api/types";
import { useDesign } from "../../design/context";
import { TargetFindings } from "../../design/TargetFindings";
import { TextWord } from "../../shared/TextWord";
import { DeviceLines } from "./DeviceLines";
import { PriceLine } from "./PriceLine";
import { ReclaimLine } from "./ReclaimLine";
import { SpeedLine } from "./SpeedLine";
import { TapeLine } from "./TapeLine";
import { LayoutLine, LockLine, PlaceLine, RoomLine } from "./TargetLines";

/** One target in sentences whose words are chosen and typed. */
export function TargetEditor({ target, onTakeOut }: { target: Target; onTakeOut: () => void }) {
  const { canEdit, save } = useDesign();
  const name = target.name || target.id;
  const keep = (change: Partial<Target>, what: string) =>
    save("targets", target.id, { ...target, ...change }, `${name}: ${what}`);
  const props = { target, canEdit, keep };
  return (
    <Stack
      component="section"
      aria-label={`Target ${name}`}
      sx={{ gap: 1, borderTop: 1, borderColor: "divider", pt: 1.5 }}
    >
      <Stack direction="row" sx={{ alignItems: "baseline", gap: 2 }}>
        <TextWord
          heading
          label="Name of the target"
          value={target.name ?? ""}
          disabled={!canEdit}
          width={320}
          onKeep={(text) => keep({ name: text }, `renamed to ${text}`)}
        />
        <UsedBy target={target} />
        <Box sx={{ flex: 1 }} />
        {canEdit && (
          <Button color="error" onClick={onTakeOut}>
            Remove
          </Button>
        )}
      </Stack>
      <Stack direction="row" sx={{ columnGap: 2, rowGap: 1, flexWrap: "wrap" }}>
        <PlaceLine {...props} />
        {(target.media === "disk" || target.media === "object") && <LayoutLine {...props} />}
      </Stack>
      <RoomLine {...props} />
      {target.media === "disk" && <DeviceLines {...props} />}
      {target.media === "tape" && <TapeLine {...props} />}
      <Stack direction="row" sx={{ columnGap: 2, rowGap: 1, flexWrap: "wrap" }}>
        <LockLine {...props} />
        <ReclaimLine {...props} />
      </Stack>
      <SpeedLine {...props} />
      <PriceLine {...props} />
      <TargetFindings target={target.id} />
    </Stack>
  );
}

function UsedBy({ target }: { target: Target }) {
  const { design } = useDesign();
  const uses = design.document.routes.flatMap((route) =>
    route.copies.flatMap((copy) => {
      const name = `${route.name || route.id}: ${copy.name || copy.id}`;
      if (copy.target === target.id) return [name];
      return (copy.step_downs ?? []).some((step) => step.target === target.id)
        ? [`${name}, stepped down`]
        : [];
    }),
  );
  return (
    <Typography color="textSecondary" noWrap data-whole title={uses.join("\n")}>
      {uses.length === 0 ? "No copy lies on it yet." : `Holds ${uses.join("; ")}`}
    </Typography>
  );
}
