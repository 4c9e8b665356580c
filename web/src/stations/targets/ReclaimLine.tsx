import { VOCABULARY } from "../../api/generated/vocabulary";
import { Choice } from "../../shared/Choice";
import { Line } from "../../shared/Line";
import { TextWord } from "../../shared/TextWord";
import type { TargetLineProps } from "./TargetLines";

const AT_ONCE = "at once";

/** When the space of what went is given back. */
export function ReclaimLine({ target, canEdit, keep }: TargetLineProps) {
  const { reclaim } = target;
  const value = reclaim?.rrule ?? AT_ONCE;
  const options: Record<string, string> = { [AT_ONCE]: AT_ONCE, ...VOCABULARY.reclaims };
  const choose = (chosen: string) => {
    if (chosen === AT_ONCE) return keep({ reclaim: null }, "space is given back at once");
    const at = reclaim?.at ?? ["06:00"];
    return keep({ reclaim: { rrule: chosen, at } }, `space is given back ${options[chosen]}`);
  };
  return (
    <Line>
      Space of what goes is given back
      <Choice
        label="When space is given back"
        value={value}
        options={value in options ? options : { ...options, [value]: value }}
        disabled={!canEdit}
        onChange={(chosen) => void choose(chosen)}
      />
      {reclaim && (
        <>
          at
          <TextWord
            label="Time at which space is given back"
            value={(reclaim.at ?? []).join(", ")}
            disabled={!canEdit}
            width={80}
            onKeep={(text) =>
              keep(
                { reclaim: { ...reclaim, at: text.split(/[\s,]+/).filter(Boolean) } },
                `space is given back at ${text}`,
              )
            }
          />
        </>
      )}
    </Line>
  );
}
