import AddIcon from "@mui/icons-material/Add";
import { Button } from "@mui/material";
import type { ReactNode } from "react";
import type { Workload } from "../../api/types";
import { useDesign } from "../../design/context";
import { AmountWord } from "../../shared/AmountWord";
import { Choice } from "../../shared/Choice";
import { DateWord } from "../../shared/DateWord";
import { Line } from "../../shared/Line";
import { RemoveButton } from "../../shared/RemoveButton";
import { SizeWord } from "../../shared/SizeWord";
import type { LinesProps } from "./MemberLines";

type Step = NonNullable<Workload["steps"]>[number];
type CountStep = NonNullable<Workload["count_steps"]>[number];

/** How a workload grows: by a share or a size a year, in dated steps, and by more machines from a date on. */
export function GrowthLines(props: LinesProps) {
  return (
    <>
      <EvenGrowthLine {...props} />
      <StepLines {...props} />
      <CountStepLines {...props} />
    </>
  );
}

function EvenGrowthLine({ workload, canEdit, keep }: LinesProps) {
  const isEven = workload.annual_growth !== null && workload.annual_growth !== undefined;
  return (
    <Line label="Growth">
      It grows
      <Choice
        label="How it grows"
        value={isEven ? "even" : "share"}
        options={{ share: "by a share of itself a year", even: "evenly, by a size a year:" }}
        disabled={!canEdit}
        onChange={(word) =>
          void keep(
            word === "even" ? { annual_growth: "1 TB", annual_growth_percent: 0 } : { annual_growth: null },
            word === "even" ? "grows evenly" : "grows by a share of itself",
          )
        }
      />
      {isEven ? (
        <SizeWord
          label="Growth a year"
          value={workload.annual_growth ?? null}
          disabled={!canEdit}
          onKeep={(size) => keep({ annual_growth: size ?? 0 }, `grows by ${size ?? 0} a year`)}
        />
      ) : (
        <AmountWord
          label="Growth a year in percent"
          value={workload.annual_growth_percent ?? 0}
          disabled={!canEdit}
          onKeep={(percent) => keep({ annual_growth_percent: percent }, `grows by ${percent} % a year`)}
        />
      )}
      {!isEven && "%"}
    </Line>
  );
}

function StepLines({ workload, canEdit, keep }: LinesProps) {
  const { starts } = useDesign().design.document;
  return (
    <DatedLines<Step>
      entries={workload.steps ?? []}
      canEdit={canEdit}
      named={(number) => ({ line: `Step ${number}`, date: `Date of step ${number}`, rest: `step ${number}` })}
      begin="On"
      onDate="a step on"
      fresh={{ on: starts, add: "1 TB" }}
      add={{ button: "Add a dated step of its size", done: "a dated step" }}
      keep={(steps, what) => keep({ steps }, what)}
    >
      {(step, number, put) => (
        <>
          it grows by
          <SizeWord
            label={`Size of step ${number}`}
            value={step.add}
            disabled={!canEdit}
            onKeep={(add) => put({ add: add ?? 0 }, `a step of ${add ?? 0}`)}
          />
        </>
      )}
    </DatedLines>
  );
}

function CountStepLines({ workload, canEdit, keep }: LinesProps) {
  const { starts } = useDesign().design.document;
  return (
    <DatedLines<CountStep>
      entries={workload.count_steps ?? []}
      canEdit={canEdit}
      named={(number) => ({
        line: `Machines ${number}`,
        date: `Date of more machines ${number}`,
        rest: `more machines ${number}`,
      })}
      begin="From"
      onDate="more machines from"
      fresh={{ on: starts, add: 1 }}
      add={{ button: "Add machines from a date on", done: "more machines from a date on" }}
      keep={(count_steps, what) => keep({ count_steps }, what)}
    >
      {(step, number, put) => (
        <>
          on there are
          <AmountWord
            label={`Number of more machines ${number}`}
            value={step.add}
            disabled={!canEdit}
            onKeep={(add) => put({ add }, `${add} machines more`)}
          />
          machines more
        </>
      )}
    </DatedLines>
  );
}

interface DatedProps<T extends { on: string }> {
  entries: readonly T[];
  canEdit: boolean;
  /** What a line, its date and what is removed with it are called, by its number. */
  named: (number: number) => { line: string; date: string; rest: string };
  begin: string;
  onDate: string;
  fresh: T;
  add: { button: string; done: string };
  keep: (entries: T[], what: string) => Promise<boolean>;
  children: (
    entry: T,
    number: number,
    put: (change: Partial<T>, what: string) => Promise<boolean>,
  ) => ReactNode;
}

/** Entries with a date, a sentence each; one is added as of the design's start. */
function DatedLines<T extends { on: string }>(props: DatedProps<T>) {
  const { entries, canEdit, named, begin, onDate, fresh, add, keep, children } = props;
  const put = (at: number, change: Partial<T> | null, what: string) =>
    keep(
      entries.flatMap((one, place) => (place !== at ? [one] : change ? [{ ...one, ...change }] : [])),
      what,
    );
  return (
    <>
      {entries.map((entry, at) => {
        const { line, date, rest } = named(at + 1);
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: they have no id, their place is what they are known by
          <Line key={at} label={line}>
            {begin}
            <DateWord
              label={date}
              value={entry.on}
              disabled={!canEdit}
              onKeep={(on) => put(at, { on: on ?? "" } as Partial<T>, `${onDate} ${on ?? "no date"}`)}
            />
            {children(entry, at + 1, (change, what) => put(at, change, what))}
            {canEdit && (
              <RemoveButton label={`Remove ${rest}`} onRemove={() => void put(at, null, `without ${rest}`)} />
            )}
          </Line>
        );
      })}
      {canEdit && (
        <Button
          startIcon={<AddIcon />}
          sx={{ alignSelf: "flex-start" }}
          onClick={() => void keep([...entries, fresh], add.done)}
        >
          {add.button}
        </Button>
      )}
    </>
  );
}
