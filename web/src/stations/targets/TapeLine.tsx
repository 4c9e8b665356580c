import { Choice } from "../../shared/Choice";
import { DurationWord } from "../../shared/DurationWord";
import { Line } from "../../shared/Line";
import { NumberField } from "../../shared/NumberField";
import { SizeWord } from "../../shared/SizeWord";
import { useStartingPoints } from "../../shared/useStartingPoints";
import { FIRST } from "../../shared/words";
import type { TargetLineProps } from "./TargetLines";
import { CLOSES } from "./words";

/** A tape library: cartridges, slots, drives, and when a media set closes. */
export function TapeLine({ target, canEdit, keep }: TargetLineProps) {
  const known = (useStartingPoints()?.targets ?? []).map((one) => one.target).filter((one) => one.generation);
  const generations: Record<string, string> = {
    "": "of another make",
    ...Object.fromEntries(known.map((one) => [one.generation ?? "", one.generation ?? ""])),
    ...(target.generation ? { [target.generation]: target.generation } : {}),
  };
  const choose = (generation: string) => {
    const cartridge =
      known.find((one) => one.generation === generation)?.cartridge ?? target.cartridge ?? null;
    void keep({ generation, cartridge }, generations[generation] ?? generation);
  };
  const whole = { min: 0, disabled: !canEdit, onTry: () => undefined };
  return (
    <Line label="Tape">
      Its cartridges are
      <Choice
        label="Generation"
        value={target.generation ?? ""}
        options={generations}
        disabled={!canEdit}
        onChange={choose}
      />
      of
      <SizeWord
        label="Size of a cartridge"
        value={target.cartridge}
        placeholder="no size"
        disabled={!canEdit}
        width={80}
        onKeep={(cartridge) => keep({ cartridge }, `cartridges of ${cartridge ?? "no size"}`)}
      />
      in
      <NumberField
        {...whole}
        label="Slots"
        value={target.slots ?? 0}
        onKeep={(slots) => void keep({ slots }, `${slots} slots`)}
      />
      slots, read by
      <NumberField
        {...whole}
        label="Drives"
        value={target.drives ?? 0}
        onKeep={(drives) => void keep({ drives }, `${drives} drives`)}
      />
      drives. A set closes
      <Choice
        label="When a set closes"
        value={target.batch_closes ?? "full"}
        options={CLOSES}
        disabled={!canEdit}
        onChange={(batch_closes) => void keep({ batch_closes }, `a set closes ${CLOSES[batch_closes]}`)}
      />
      and is back from storage after
      <DurationWord
        label="Time until a cartridge comes back"
        value={target.returns_after ?? FIRST.returns_after}
        units={["day", "week", "month"]}
        disabled={!canEdit}
        onKeep={(returns_after) =>
          void keep({ returns_after }, `cartridges come back after ${returns_after}`)
        }
      />
    </Line>
  );
}
