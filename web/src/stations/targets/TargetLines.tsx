import type { Target } from "../../api/types";
import { useDesign } from "../../design/context";
import { AmountWord } from "../../shared/AmountWord";
import { Choice } from "../../shared/Choice";
import { Line } from "../../shared/Line";
import { NumberField } from "../../shared/NumberField";
import { SizeWord } from "../../shared/SizeWord";
import { TextWord } from "../../shared/TextWord";
import { LOCKS, MEDIA, PACKING } from "./words";

export interface TargetLineProps {
  target: Target;
  canEdit: boolean;
  keep: (change: Partial<Target>, what: string) => Promise<boolean>;
}

export function PlaceLine({ target, canEdit, keep }: TargetLineProps) {
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

export function RoomLine({ target, canEdit, keep }: TargetLineProps) {
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

export function LayoutLine({ target, canEdit, keep }: TargetLineProps) {
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

export function LockLine({ target, canEdit, keep }: TargetLineProps) {
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
