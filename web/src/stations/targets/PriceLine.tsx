import type { Prices, Target } from "../../api/types";
import { useDesign } from "../../design/context";
import { AmountWord } from "../../shared/AmountWord";
import { Line } from "../../shared/Line";
import { TextWord } from "../../shared/TextWord";
import { FIRST } from "../../shared/words";
import type { TargetLineProps } from "./TargetLines";

const FREE: Prices = FIRST.prices;

type Priced = Exclude<keyof Prices, "part_size">;

const ASKED: Record<Target["media"], [Priced, string][]> = {
  disk: [["capacity_tb_month", "a TB and month"]],
  snapshot: [["capacity_tb_month", "a TB and month"]],
  object: [
    ["capacity_tb_month", "a TB and month"],
    ["retrieval_tb", "a TB read back"],
    ["traffic_tb", "a TB that leaves the site"],
    ["requests_thousand", "a thousand requests"],
  ],
  tape: [
    ["cartridge", "a cartridge"],
    ["cartridge_month", "a cartridge and month in storage"],
    ["capacity_tb_month", "a TB and month"],
  ],
};

/** What the target costs, in the design's currency. */
export function PriceLine({ target, canEdit, keep }: TargetLineProps) {
  const { design } = useDesign();
  const prices = target.prices ?? FREE;
  const currency = design.document.currency ?? "EUR";
  return (
    <Line label="Prices">
      {`It costs, in ${currency},`}
      {ASKED[target.media].map(([name, words], at) => (
        <Line key={name}>
          <AmountWord
            label={`Price of ${words}`}
            value={prices[name] ?? 0}
            disabled={!canEdit}
            onKeep={(value) =>
              keep({ prices: { ...prices, [name]: value } }, `${value} ${currency} for ${words}`)
            }
          />
          {words + ending(target, at)}
        </Line>
      ))}
      {target.media === "object" && (
        <TextWord
          label="Size of a part"
          value={String(prices.part_size ?? FREE.part_size)}
          disabled={!canEdit}
          width={80}
          onKeep={(part_size) => keep({ prices: { ...prices, part_size } }, `requests of ${part_size}`)}
        />
      )}
    </Line>
  );
}

/** What follows a price: the next one, the end, or how large a request is. */
function ending(target: Target, at: number): string {
  if (at < ASKED[target.media].length - 1) return ",";
  return target.media === "object" ? ", each of" : ".";
}
