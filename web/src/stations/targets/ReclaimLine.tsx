import { client, unwrap } from "../../api/client";
import type { Pattern } from "../../api/types";
import { Choice } from "../../shared/Choice";
import { Line } from "../../shared/Line";
import { TextWord } from "../../shared/TextWord";
import { WEEKDAY_NAMES } from "../../shared/words";
import type { TargetLineProps } from "./TargetEditor";

/** When the space of what went is given back. */
export function ReclaimLine({ target, canEdit, keep }: TargetLineProps) {
  const { reclaim } = target;
  const day = /^FREQ=WEEKLY;BYDAY=([A-Z]{2})$/.exec(reclaim?.rrule ?? "")?.[1];
  const value = !reclaim ? "at once" : reclaim.rrule === "FREQ=DAILY" ? "daily" : (day ?? "other");
  const options: Record<string, string> = {
    "at once": "at once",
    daily: "every day",
    ...Object.fromEntries(Object.entries(WEEKDAY_NAMES).map(([code, name]) => [code, `every ${name}`])),
    ...(value === "other" ? { other: reclaim?.rrule ?? "" } : {}),
  };
  const choose = async (chosen: string) => {
    if (chosen === "at once") return void keep({ reclaim: null }, "space is given back at once");
    const body: Pattern = {
      repeats: chosen === "daily" ? "daily" : "weekly",
      every: 1,
      weekdays: chosen === "daily" ? [] : [chosen as Pattern["weekdays"][number]],
      nth: 1,
      day: 1,
      month: 1,
    };
    const { rrule } = await unwrap(client.POST("/api/rules", { body }));
    void keep({ reclaim: { rrule, at: reclaim?.at ?? ["06:00"] } }, `space is given back ${options[chosen]}`);
  };
  return (
    <Line>
      Space of what goes is given back
      <Choice
        label="When space is given back"
        value={value}
        options={options}
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
