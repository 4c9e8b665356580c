import AddIcon from "@mui/icons-material/Add";
import CloseIcon from "@mui/icons-material/Close";
import { Box, Button, IconButton, Stack, Typography } from "@mui/material";
import type { Bar, Kind, Ladder, LadderReading, Rung } from "../../api/types";
import { Choice } from "../../shared/Choice";
import { DurationWord } from "../../shared/DurationWord";
import { countText } from "../../shared/format";
import { NumberField } from "../../shared/NumberField";
import { SeveralWords } from "../../shared/SeveralWords";
import { TextWord } from "../../shared/TextWord";
import { DAYS_OF_WEEK, EVERY, KIND_NAMES, MONTH_DAYS, PICKS } from "../../shared/words";
import { countIn, keepOf, type Way, wayOf, withKeep } from "./keeps";

interface Props {
  ladder: Ladder;
  reading: LadderReading | undefined;
  /** The names of the runs that its copies know, by id. */
  runs: Record<string, string>;
  canEdit: boolean;
  onTry: (ladder: Ladder) => void;
  onKeep: (ladder: Ladder, what: string) => void;
  onRename: (place: number, name: string) => Promise<boolean>;
}

/** The rules of a ladder as sentences whose words are chosen and typed. */
export function LadderRules({ ladder, reading, runs, canEdit, onTry, onKeep, onRename }: Props) {
  const bars = reading?.bars ?? [];
  const hand = { ladder, runs, canEdit, onTry, onKeep, onRename };
  const claimed = (label: string) =>
    reading?.uses.map((use) => use.claimed[label]).find((count) => count !== undefined);
  return (
    <Stack sx={{ gap: 0.75 }}>
      {bars.map((bar) => (
        <Box
          key={`${bar.part}-${bar.place}`}
          sx={{ display: "grid", gridTemplateColumns: "1fr auto 30px", columnGap: 1, alignItems: "center" }}
        >
          <Stack direction="row" sx={{ gap: 0.5, alignItems: "center", flexWrap: "wrap" }}>
            {bar.part === "recent" ? <RecentWords bar={bar} {...hand} /> : <RungWords bar={bar} {...hand} />}
          </Stack>
          <Typography color="textSecondary" data-claimed={bar.label}>
            {claimed(bar.label) === undefined ? "" : `${countText(claimed(bar.label) ?? 0)} claimed`}
          </Typography>
          {canEdit && <Remove bar={bar} {...hand} />}
        </Box>
      ))}
      <Stack direction="row" sx={{ gap: 1, alignItems: "center", flexWrap: "wrap" }}>
        <Typography>In any case the newest</Typography>
        <NumberField
          label="Points that always stay"
          value={ladder.floor ?? 1}
          min={0}
          disabled={!canEdit}
          onTry={(floor) => onTry({ ...ladder, floor })}
          onKeep={(floor) => onKeep({ ...ladder, floor }, `always the newest ${floor}`)}
        />
        <Typography>{ladder.floor === 1 ? "point stays." : "points stay."} Logs stay</Typography>
        <Choice
          label="How long logs stay"
          value={ladder.logs == null ? "point" : "time"}
          options={{ point: "with the point before them", time: "for a time:" }}
          disabled={!canEdit}
          onChange={(way) =>
            onKeep(
              { ...ladder, logs: way === "point" ? null : "P7D" },
              `logs stay ${way === "point" ? "with their point" : "7 days"}`,
            )
          }
        />
        {ladder.logs != null && (
          <DurationWord
            label="Time that logs stay"
            value={ladder.logs}
            units={["hour", "day", "week", "month"]}
            disabled={!canEdit}
            onTry={(logs) => onTry({ ...ladder, logs })}
            onKeep={(logs) => onKeep({ ...ladder, logs }, `logs stay ${logs}`)}
          />
        )}
        {canEdit && (
          <Stack direction="row" sx={{ gap: 1, ml: "auto" }}>
            <Button
              startIcon={<AddIcon />}
              onClick={() => onKeep(withRecent(ladder), "added a rule for recent points")}
            >
              A rule for recent points
            </Button>
            <Button startIcon={<AddIcon />} onClick={() => onKeep(withRung(ladder), "added a rung")}>
              A rung
            </Button>
          </Stack>
        )}
      </Stack>
    </Stack>
  );
}

interface RowProps {
  bar: Bar;
  ladder: Ladder;
  runs: Record<string, string>;
  canEdit: boolean;
  onTry: (ladder: Ladder) => void;
  onKeep: (ladder: Ladder, what: string) => void;
  onRename: (place: number, name: string) => Promise<boolean>;
}

function RecentWords(props: RowProps) {
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

function RungWords(props: RowProps) {
  const { bar, ladder, canEdit, onKeep } = props;
  const rung = ladder.rungs[bar.place];
  if (!rung) return null;
  const set = (change: Partial<Rung>, what: string) => {
    const rungs = ladder.rungs.map((one, at) => (at === bar.place ? { ...one, ...change } : one));
    onKeep({ ...ladder, rungs }, `${bar.label}: ${what}`);
  };
  const days = rung.every === "week" ? DAYS_OF_WEEK : rung.every === "month" ? MONTH_DAYS : null;
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
        value={rung.from ?? "self-contained"}
        options={{
          "self-contained": "self-contained",
          any: "of any kind",
          ...Object.fromEntries(
            ladder.rungs
              .slice(0, bar.place)
              .filter((one) => one.pick !== "last")
              .map((one) => [one.name, `that ${one.name} picked`]),
          ),
        }}
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

/** For which runs or kinds a rule for recent points speaks. */
function Narrowing({ bar, ladder, runs, canEdit, onKeep }: RowProps) {
  const rule = ladder.recent[bar.place];
  if (!rule) return null;
  const way = rule.runs ? "runs" : rule.kinds ? "kinds" : "all";
  const set = (change: { runs: string[] | null; kinds: Kind[] | null }, what: string) => {
    const recent = ladder.recent.map((one, at) => (at === bar.place ? { ...one, ...change } : one));
    onKeep({ ...ladder, recent }, `${bar.label}: ${what}`);
  };
  const first = Object.keys(runs)[0];
  const change = (next: "all" | "runs" | "kinds") => {
    if (next === "runs") set({ runs: first ? [first] : null, kinds: null }, "of some runs");
    else
      set(
        { runs: null, kinds: next === "kinds" ? ["full"] : null },
        next === "kinds" ? "of some kinds" : "of all",
      );
  };
  return (
    <>
      <Choice
        label={`Which points of rule ${bar.place + 1}`}
        value={way}
        options={
          {
            all: "of all",
            kinds: "of the kinds",
            ...(first || way === "runs" ? { runs: "of the runs" } : {}),
          } as Record<"all" | "kinds" | "runs", string>
        }
        disabled={!canEdit}
        onChange={change}
      />
      {way === "kinds" && (
        <SeveralWords
          label={`Kinds of rule ${bar.place + 1}`}
          values={rule.kinds ?? []}
          options={KIND_NAMES}
          disabled={!canEdit}
          onChange={(kinds) => set({ runs: null, kinds: kinds as Kind[] }, `of ${kinds.join(", ")}`)}
        />
      )}
      {way === "runs" && (
        <SeveralWords
          label={`Runs of rule ${bar.place + 1}`}
          values={rule.runs ?? []}
          options={runs}
          disabled={!canEdit}
          onChange={(chosen) => set({ runs: chosen, kinds: null }, `of ${chosen.join(", ")}`)}
        />
      )}
    </>
  );
}

function KeepFields({
  bar,
  ladder,
  canEdit,
  onTry,
  onKeep,
  ways,
  counted,
}: RowProps & { ways: Way[]; counted: string }) {
  const way = wayOf(bar);
  const options = Object.fromEntries(
    [...ways, ...(way === "other" ? (["other"] as const) : [])].map((one) => [one, wayWords(one, counted)]),
  ) as Record<Way, string>;
  const change = (next: Way) => {
    const count = countIn(ladder, bar) || 4;
    onKeep(withKeep(ladder, bar, keepOf(next, count, bar.part)), `${bar.label}: ${wayWords(next, counted)}`);
  };
  return (
    <>
      {way !== "forever" && way !== "other" && way !== "superseded" && (
        <NumberField
          label={`Number of ${bar.label}`}
          width={52}
          value={countIn(ladder, bar)}
          min={0}
          disabled={!canEdit}
          onTry={(count) => onTry(withKeep(ladder, bar, keepOf(way, count, bar.part)))}
          onKeep={(count) =>
            onKeep(withKeep(ladder, bar, keepOf(way, count, bar.part)), `${bar.label} set to ${count}`)
          }
        />
      )}
      <Choice
        label={`Unit of ${bar.label}`}
        value={way}
        options={options}
        disabled={!canEdit || way === "other"}
        onChange={change}
      />
    </>
  );
}

function wayWords(way: Way, counted: string): string {
  if (way === "counted") return counted;
  if (way === "forever") return "good";
  if (way === "superseded") return "until all its parts are taken again";
  return way === "other" ? "as the document says" : `${way}s of age`;
}

function Remove({ bar, ladder, onKeep }: RowProps) {
  const remove = () => {
    const without = <T,>(list: T[]): T[] => list.filter((_, at) => at !== bar.place);
    const changed =
      bar.part === "recent" ? { recent: without(ladder.recent) } : { rungs: without(ladder.rungs) };
    onKeep({ ...ladder, ...changed }, `removed ${bar.label}`);
  };
  return (
    <IconButton size="small" aria-label={`Remove the rule ${bar.label}`} onClick={remove}>
      <CloseIcon fontSize="small" />
    </IconButton>
  );
}

function withRecent(ladder: Ladder): Ladder {
  return { ...ladder, recent: [...ladder.recent, { keep: "P7D" }] };
}

const RUNG_NAMES = {
  day: "daily",
  week: "weekly",
  month: "monthly",
  quarter: "quarterly",
  year: "yearly",
} as const;

function withRung(ladder: Ladder): Ladder {
  const every =
    (["week", "month", "year", "quarter", "day"] as const).find(
      (one) => !ladder.rungs.some((rung) => rung.every === one),
    ) ?? "week";
  const taken = new Set(ladder.rungs.map((rung) => rung.name));
  const base = RUNG_NAMES[every];
  const name = taken.has(base) ? `${base} ${ladder.rungs.length + 1}` : base;
  const rung: Rung = { name, every, pick: "first", from: "self-contained", keep: { periods: 4 } };
  return { ...ladder, rungs: [...ladder.rungs, rung] };
}
