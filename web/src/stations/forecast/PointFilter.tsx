import { Autocomplete, Button, TextField, Typography } from "@mui/material";
import { useDesign, useNames } from "../../design/context";
import { Choice } from "../../shared/Choice";
import { DateWord } from "../../shared/DateWord";
import { Line } from "../../shared/Line";

const STATES = { kept: "kept", locked: "locked", needed: "needed", due: "due" };
const KINDS = {
  full: "fulls",
  synthetic: "synthetics",
  differential: "differentials",
  incremental: "incrementals",
  snapshot: "snapshots",
  log: "logs",
};
const ANY = "";

/** Which points are listed; what is left out is not asked for. */
export interface Filter {
  target?: string;
  route?: string;
  workload?: string;
  state?: keyof typeof STATES;
  kind?: keyof typeof KINDS;
  rule?: string;
  run?: string;
  taken_from?: string;
  taken_to?: string;
}

interface Props {
  filter: Filter;
  /** The rules and runs that there are among the points. */
  rules: string[];
  runs: string[];
  /** Whether points of all targets are listed, of which one may be chosen. */
  choosesTarget: boolean;
  onChange: (filter: Filter) => void;
}

export const FIELDS: readonly (keyof Filter)[] = [
  "target",
  "route",
  "workload",
  "state",
  "kind",
  "rule",
  "run",
  "taken_from",
  "taken_to",
];

/** Which points are listed, as a sentence of words that are chosen. */
export function PointFilter({ filter, rules, runs, choosesTarget, onChange }: Props) {
  const { document } = useDesign().design;
  const names = useNames();
  const routes = Object.fromEntries(document.routes.map((one) => [one.id, one.name || one.id]));
  const targets = Object.fromEntries(document.targets.map((one) => [one.id, one.name || one.id]));
  const set = (name: keyof Filter) => (value: string | null) => {
    const { [name]: _, ...others } = filter;
    onChange(value ? { ...others, [name]: value } : others);
  };
  const pick = (name: keyof Filter, label: string, any: string, options: Record<string, string>) => (
    <Choice
      label={label}
      value={filter[name] ?? ANY}
      options={{ [ANY]: any, ...options }}
      disabled={false}
      onChange={set(name)}
    />
  );
  const day = (name: "taken_from" | "taken_to", label: string) => (
    <DateWord
      label={label}
      placeholder={name === "taken_from" ? "the first" : "the last"}
      disabled={false}
      value={filter[name]}
      onKeep={async (date) => {
        set(name)(date);
        return true;
      }}
    />
  );
  return (
    <Line label="Which points">
      {pick("kind", "Kind of points", "all kinds", KINDS)}
      {choosesTarget && <>on {pick("target", "Target of points", "all targets", targets)}</>}
      of {pick("route", "Route of points", "all routes", routes)}
      and
      <Autocomplete
        size="small"
        forcePopupIcon={false}
        options={document.workloads.map((one) => one.id)}
        getOptionLabel={names.workload}
        value={filter.workload ?? null}
        onChange={(_, next) => set("workload")(next)}
        renderInput={(params) => (
          <TextField
            {...params}
            placeholder="all workloads"
            slotProps={{
              ...params.slotProps,
              htmlInput: {
                ...params.slotProps.htmlInput,
                "aria-label": "Workload of points",
                style: { padding: 0 },
              },
            }}
          />
        )}
        sx={{ width: 150, "& .MuiOutlinedInput-root": { py: "3px !important" } }}
      />
      {pick("state", "State of points", "in any state", STATES)}
      {pick("rule", "Rule of points", "by any rule", named(rules))}
      {pick("run", "Run of points", "from any run", named(runs))}
      taken from {day("taken_from", "Taken from")}
      to {day("taken_to", "Taken to")}
      {Object.keys(filter).length > 0 && <Button onClick={() => onChange({})}>All of them</Button>}
    </Line>
  );
}

function named(names: string[]): Record<string, string> {
  return Object.fromEntries(names.map((name) => [name, name]));
}

/** What a list without any points says. */
export function NothingListed({ filter }: { filter: Filter }) {
  return (
    <Typography color="textSecondary" sx={{ p: 1 }}>
      {Object.keys(filter).length > 0
        ? "No point that is there on this date fits all of these words."
        : "Nothing is there on this date."}
    </Typography>
  );
}
