import { Autocomplete, Chip, TextField } from "@mui/material";
import type { Unknown } from "../../api/types";
import { useDesign } from "../../design/context";
import { AmountWord } from "../../shared/AmountWord";
import { Choice } from "../../shared/Choice";
import { Line } from "../../shared/Line";
import { RemoveButton } from "../../shared/RemoveButton";
import { TextWord } from "../../shared/TextWord";

const QUANTITIES = {
  annual_growth_percent: { name: "growth", unit: "% a year", start: { low: 0, high: 20 } },
  daily_change_percent: { name: "change", unit: "% a day", start: { low: 0.5, high: 2, factors: true } },
  reduction: { name: "reduction", unit: "to one", start: { low: 0.8, high: 1.2, factors: true } },
} as const;
type Quantity = keyof typeof QUANTITIES;
const quantities = Object.keys(QUANTITIES) as Quantity[];
const HOW = { values: "itself", factors: "× expected" };

interface Props {
  unknown: Unknown;
  onChange: (next: Unknown | null, what: string) => Promise<boolean>;
}

/** One range of what is not known, as a sentence. */
export function UnknownLine({ unknown, onChange }: Props) {
  const { design, canEdit } = useDesign();
  const { workloads } = design.document;
  const name = unknown.name || unknown.id;
  const tags = [...new Set(workloads.flatMap((one) => one.tags ?? []))].sort();
  const ids = workloads.map((one) => one.id);
  const chosen = [...(unknown.workloads.tags ?? []).map(tagged), ...(unknown.workloads.ids ?? [])];
  const choose = (next: string[]) =>
    onChange(
      {
        ...unknown,
        workloads: {
          tags: next.filter((one) => one.startsWith(TAG)).map((one) => one.slice(TAG.length)),
          ids: next.filter((one) => !one.startsWith(TAG)),
        },
      },
      `${name}: other workloads`,
    );
  return (
    <Line label={`Range ${name}`}>
      <TextWord
        label="Name of the range"
        value={unknown.name ?? ""}
        disabled={!canEdit}
        width={190}
        onKeep={(text) => onChange({ ...unknown, name: text }, `named ${text}`)}
      />
      of
      <Autocomplete
        multiple
        forcePopupIcon={false}
        size="small"
        disableClearable
        disabled={!canEdit}
        options={[...tags.map(tagged), ...ids]}
        value={chosen}
        onChange={(_, next) => void choose(next)}
        renderValue={(values, getItemProps) =>
          values.map((value, index) => {
            const { key, ...item } = getItemProps({ index });
            return <Chip key={key} label={value} size="small" {...item} />;
          })
        }
        renderInput={(params) => (
          <TextField
            {...params}
            slotProps={{
              ...params.slotProps,
              htmlInput: { ...params.slotProps.htmlInput, "aria-label": `Workloads of ${name}` },
            }}
          />
        )}
        sx={{ minWidth: 140 }}
      />
      {quantities.map((quantity) => (
        <QuantityWords key={quantity} quantity={quantity} unknown={unknown} onChange={onChange} />
      ))}
      {canEdit && (
        <Choice
          label={`Also of ${name}`}
          value={"none" as string}
          options={{ none: "and…", ...wordsFor(unknown) } as Record<string, string>}
          disabled={false}
          onChange={(chosen) => {
            const quantity = quantities.find((one) => one === chosen);
            if (!quantity) return;
            const known = Boolean(unknown[quantity]);
            const next = { ...unknown, [quantity]: known ? null : QUANTITIES[quantity].start };
            void onChange(next, `${name}: its ${QUANTITIES[quantity].name} is ${known ? "" : "not "}known`);
          }}
        />
      )}
      {canEdit && (
        <RemoveButton label={`Remove ${name}`} onRemove={() => void onChange(null, `removed ${name}`)} />
      )}
    </Line>
  );
}

/** What else of a range can be said: a further quantity that is not known, or that one of several is known after all. */
function wordsFor(unknown: Unknown): Record<string, string> {
  const there = quantities.filter((one) => unknown[one]);
  const words = quantities.flatMap((one): [string, string][] => {
    const { name } = QUANTITIES[one];
    if (!unknown[one]) return [[one, `its ${name} is not known`]];
    return there.length > 1 ? [[one, `its ${name} is known`]] : [];
  });
  return Object.fromEntries(words);
}

const TAG = "tagged ";
const tagged = (tag: string) => `${TAG}${tag}`;

function QuantityWords({ quantity, unknown, onChange }: Props & { quantity: Quantity }) {
  const { canEdit } = useDesign();
  const range = unknown[quantity];
  if (!range) return null;
  const { name, unit } = QUANTITIES[quantity];
  const title = unknown.name || unknown.id;
  const keep = (next: object) =>
    onChange({ ...unknown, [quantity]: { ...range, ...next } }, `${title}: ${name} between other ends`);
  return (
    <>
      <b>{name}</b> from
      <AmountWord
        label={`Low ${name} of ${title}`}
        value={range.low}
        width={52}
        disabled={!canEdit}
        onKeep={(low) => keep({ low })}
      />
      to
      <AmountWord
        label={`High ${name} of ${title}`}
        value={range.high}
        width={52}
        disabled={!canEdit}
        onKeep={(high) => keep({ high })}
      />
      {quantity === "annual_growth_percent" ? (
        unit
      ) : (
        <Choice
          label={`How ${name} of ${title} is meant`}
          value={range.factors ? "factors" : "values"}
          options={{ ...HOW, values: unit }}
          disabled={!canEdit}
          onChange={(how) =>
            void keep(how === "factors" ? { low: 0.8, high: 1.25, factors: true } : { factors: false })
          }
        />
      )}
    </>
  );
}
