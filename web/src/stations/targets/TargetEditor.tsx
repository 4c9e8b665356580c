import { Box, Button, Stack, Typography } from "@mui/material";
import type { Target } from "../../api/types";
import { useDesign } from "../../design/context";
import { useFindings } from "../../design/useFindings";
import { AmountWord } from "../../shared/AmountWord";
import { Choice } from "../../shared/Choice";
import { FindingNotes } from "../../shared/FindingNotes";
import { Line } from "../../shared/Line";
import { NumberField } from "../../shared/NumberField";
import { SizeWord } from "../../shared/SizeWord";
import { TextWord } from "../../shared/TextWord";
import { DeviceLines } from "./DeviceLines";
import { PriceLine } from "./PriceLine";
import { ReclaimLine } from "./ReclaimLine";
import { TapeLine } from "./TapeLine";
import { LOCKS, MEDIA, PACKING } from "./words";

export interface TargetLineProps {
  target: Target;
  canEdit: boolean;
  keep: (change: Partial<Target>, what: string) => Promise<boolean>;
}

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
      <PriceLine {...props} />
      <TargetFindings target={target} />
    </Stack>
  );
}

function PlaceLine({ target, canEdit, keep }: TargetLineProps) {
  const { design } = useDesign();
  const sites = Object.fromEntries(design.document.sites.map((site) => [site.id, site.name || site.id]));
  return (
    <Line>
      It is
      <Choice
        label="Medium"
        value={target.media}
        options={MEDIA}
        disabled={!canEdit}
        onChange={(media) => void keep({ media }, MEDIA[media])}
      />
      at
      <Choice
        label="Site"
        value={target.site}
        options={sites}
        disabled={!canEdit}
        onChange={(site) => void keep({ site }, `at ${sites[site]}`)}
      />
      {target.media === "object" && (
        <>
          of the class
          <TextWord
            label="Storage class"
            value={target.storage_class ?? ""}
            placeholder="unnamed"
            disabled={!canEdit}
            width={150}
            onKeep={(storage_class) => keep({ storage_class }, `class ${storage_class}`)}
          />
        </>
      )}
      under the account
      <TextWord
        label="Account"
        value={target.account ?? ""}
        placeholder="none named"
        disabled={!canEdit}
        width={130}
        onKeep={(account) => keep({ account: account || null }, `account ${account || "unnamed"}`)}
      />
    </Line>
  );
}

function RoomLine({ target, canEdit, keep }: TargetLineProps) {
  const use = target.used_otherwise;
  return (
    <Line>
      It holds
      <SizeWord
        label="Capacity"
        value={target.capacity}
        placeholder="no limit"
        disabled={!canEdit}
        onKeep={(capacity) => keep({ capacity }, `capacity ${capacity ?? "without limit"}`)}
      />
      of which
      <AmountWord
        label="Reserve in percent"
        value={target.reserve_percent ?? 0}
        disabled={!canEdit}
        onKeep={(reserve_percent) => keep({ reserve_percent }, `${reserve_percent} % stay free`)}
      />
      % stay free. Others use
      <SizeWord
        label="Used otherwise"
        value={use?.size}
        placeholder="nothing"
        disabled={!canEdit}
        onKeep={(size) => {
          const used =
            size === null ? null : { size, annual_growth_percent: use?.annual_growth_percent ?? 0 };
          return keep({ used_otherwise: used }, `others use ${size ?? "nothing"}`);
        }}
      />
      {use && (
        <>
          growing by
          <AmountWord
            label="Growth of other use in percent"
            value={use.annual_growth_percent ?? 0}
            disabled={!canEdit}
            onKeep={(annual_growth_percent) =>
              keep(
                { used_otherwise: { ...use, annual_growth_percent } },
                `other use grows ${annual_growth_percent} % a year`,
              )
            }
          />
          % a year.
        </>
      )}
    </Line>
  );
}

function LayoutLine({ target, canEdit, keep }: TargetLineProps) {
  return (
    <Line>
      Points lie
      <Choice
        label="Packing"
        value={target.packing ?? "separate"}
        options={PACKING}
        disabled={!canEdit}
        onChange={(packing) => void keep({ packing }, PACKING[packing])}
      />
    </Line>
  );
}

function LockLine({ target, canEdit, keep }: TargetLineProps) {
  return (
    <Line>
      What is on it
      <Choice
        label="Lock ability"
        value={target.lock ?? "none"}
        options={LOCKS}
        disabled={!canEdit}
        onChange={(lock) => void keep({ lock }, LOCKS[lock])}
      />
      and is billed for at least
      <NumberField
        label="Minimum stay in days"
        value={target.minimum_days ?? 0}
        min={0}
        disabled={!canEdit}
        onTry={() => undefined}
        onKeep={(minimum_days) => void keep({ minimum_days }, `billed at least ${minimum_days} days`)}
      />
      days.
    </Line>
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
    <Typography color="textSecondary" noWrap title={uses.join("\n")}>
      {uses.length === 0 ? "No copy lies on it yet." : `Holds ${uses.join("; ")}`}
    </Typography>
  );
}

function TargetFindings({ target }: { target: Target }) {
  const { design } = useDesign();
  const name = target.name || target.id;
  const copies = new Set(
    design.document.routes.flatMap((route) =>
      route.copies
        .filter((copy) =>
          [copy.target, ...(copy.step_downs ?? []).map((step) => step.target)].includes(target.id),
        )
        .map((copy) => `${route.id}/${copy.id}`),
    ),
  );
  const found = useFindings().filter(
    (one) =>
      one.target === target.id ||
      (one.route && one.copy && copies.has(`${one.route}/${one.copy}`) && one.sentence.includes(name)),
  );
  return <FindingNotes findings={found} />;
}
