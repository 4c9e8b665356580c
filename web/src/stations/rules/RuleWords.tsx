import { Typography } from "@mui/material";
import type { Rung } from "../../api/types";
import { Choice } from "../../shared/Choice";
import { TextWord } from "../../shared/TextWord";
import { DAYS_OF_PERIOD, EVERY, PICKS } from "../../shared/words";
import { wayOf } from "./keeps";
import { KeepFields, Narrowing, type RowProps } from "./RuleKeep";

export function RecentWords(props: RowProps) {
  const counted = wayOf(props.bar) === "counted";
  return (
    <>
      <Typography>{counted ? "The newest" : "Every point for"}</Typography>
      <KeepFields
        {...props}
        ways={["counted", "hour", "day", "week", "month", "year", "forever", "superseded"]}
        counted="points"
      />
      <Narrowing {...props} />
    </>
  );
}

export function RungWords(props: RowProps) {
  const { bar, ladder, canEdit, onKeep } = props;
  const rung = ladder.rungs[bar.place];
  if (!rung) return null;
  const set = (change: Partial<Rung>, what: string) => {
    const rungs = ladder.rungs.map((one, at) => (at === bar.place ? { ...one, ...change } : one));
    onKeep({ ...ladder, rungs }, `${bar.label}: ${what}`);
  };
  const days = DAYS_OF_PERIOD[rung.every];
  return (
    <>
      <TextWord
        label={`Name of ${bar.label}`}
        value={rung.name}
        disabled={!canEdit}
        width={72}
        onKeep={(name) => props.onRename(bar.place, name)}
      />
      <Choice
        label={`Pick of ${bar.label}`}
        value={rung.pick}
        options={PICKS}
        disabled={!canEdit}
        onChange={(pick) => set({ pick }, pick)}
      />
      <Choice
        label={`Candidates of ${bar.label}`}
        value={rung.from ?? bar.candidates[0]?.value ?? ""}
        options={Object.fromEntries(bar.candidates.map(({ value, words }) => [value, words]))}
        disabled={!canEdit}
        onChange={(from) => set({ from }, `takes ${from}`)}
      />
      <Typography>each</Typography>
      <Choice
        label={`Period of ${bar.label}`}
        value={rung.every}
        options={EVERY}
        disabled={!canEdit}
        onChange={(every) => set({ every, on: null }, `every ${every}`)}
      />
      {days && (
        <Choice
          label={`Day of ${bar.label}`}
          value={String(rung.on ?? "start")}
          options={{
            start: "any day",
            ...days,
            ...(rung.on && !(String(rung.on) in days) ? { [String(rung.on)]: `from ${rung.on}` } : {}),
          }}
          disabled={!canEdit}
          onChange={(on) =>
            set({ on: on === "start" ? null : on }, on === "start" ? "from its start" : `from ${on}`)
          }
        />
      )}
      <Typography>for</Typography>
      <KeepFields
        {...props}
        ways={["counted", "day", "week", "month", "year", "forever"]}
        counted={`counted ${rung.every}s`}
      />
    </>
  );
}
