import AddIcon from "@mui/icons-material/Add";
import { Button } from "@mui/material";
import type { StepDown } from "../../api/types";
import { useDesign } from "../../design/context";
import { Choice } from "../../shared/Choice";
import { DurationWord } from "../../shared/DurationWord";
import { Line } from "../../shared/Line";
import { RemoveButton } from "../../shared/RemoveButton";
import { SeveralWords } from "../../shared/SeveralWords";
import type { CopyLineProps } from "./CopyEditor";
import { LockLines, NEW_LOCK } from "./LockLines";

/** The step-downs of a copy: at which age what goes where, and as what. */
export function StepDownLines({ route, copy, canEdit, keep, tryOut }: CopyLineProps) {
  const { design, command } = useDesign();
  const { targets, ladders } = design.document;
  const steps = copy.step_downs ?? [];
  const rungs = (ladders.find((one) => one.id === copy.ladder)?.rungs ?? []).map((rung) => rung.name);
  const put = (at: number, step: StepDown | null) =>
    steps.flatMap((one, place) => (place !== at ? [one] : step ? [step] : []));
  const others = targets.filter((target) => target.id !== copy.target);
  const colder = others.find((target) => (target.minimum_days ?? 0) > 0) ?? others[0];
  return (
    <>
      {steps.map((step, at) => (
        <StepLine
          // biome-ignore lint/suspicious/noArrayIndexKey: stages have no id, their place is what they are known by
          key={at}
          step={step}
          number={at + 1}
          rungs={rungs}
          targets={Object.fromEntries(targets.map((target) => [target.id, target.name || target.id]))}
          canEdit={canEdit}
          onKeep={(next, what) => void keep({ step_downs: put(at, next) }, what)}
          onTry={(next) => tryOut({ step_downs: put(at, next) })}
          locks={
            <LockLines
              label={`Lock of step-down ${at + 1}`}
              locks={step.lock ?? []}
              copy={copy}
              canEdit={canEdit}
              keep={(lock, what) => void keep({ step_downs: put(at, { ...step, lock }) }, what)}
              tryOut={(lock) => tryOut({ step_downs: put(at, { ...step, lock }) })}
            />
          }
        />
      ))}
      {canEdit && (
        <Line>
          <Button
            startIcon={<AddIcon />}
            onClick={() => void keep({ lock: [...(copy.lock ?? []), NEW_LOCK] }, "added a lock")}
          >
            Add a lock
          </Button>
          {colder && (
            <Button
              startIcon={<AddIcon />}
              onClick={() =>
                void command(
                  { do: "add-step-down", route: route.id, copy: copy.id, target: colder.id },
                  `${route.name || route.id}: ${copy.name || copy.id}: added a step-down`,
                )
              }
            >
              Add a step-down
            </Button>
          )}
        </Line>
      )}
    </>
  );
}

interface StepLineProps {
  step: StepDown;
  number: number;
  rungs: readonly string[];
  targets: Record<string, string>;
  canEdit: boolean;
  onKeep: (step: StepDown | null, what: string) => void;
  onTry: (step: StepDown) => void;
  locks: React.ReactNode;
}

function StepLine({ step, number, rungs, targets, canEdit, onKeep, onTry, locks }: StepLineProps) {
  const of = `of step-down ${number}`;
  const which = Array.isArray(step.which) ? "named" : (step.which ?? "rungs");
  const disabled = !canEdit;
  return (
    <>
      <Line label={`Step-down ${number}`}>
        After
        <DurationWord
          label={`Age ${of}`}
          value={step.after}
          disabled={disabled}
          onTry={(after) => onTry({ ...step, after })}
          onKeep={(after) => onKeep({ ...step, after }, `steps down after ${after}`)}
        />
        <Choice
          label={`What ${of}`}
          value={which}
          options={{ rungs: "what a rung keeps", all: "all that is kept", named: "what these rungs keep:" }}
          disabled={disabled || (which !== "named" && rungs.length === 0)}
          onChange={(next) =>
            onKeep({ ...step, which: next === "named" ? rungs.slice(0, 1) : next }, `steps down ${next}`)
          }
        />
        {Array.isArray(step.which) && (
          <SeveralWords
            label={`Rungs ${of}`}
            values={step.which}
            options={Object.fromEntries(rungs.map((rung) => [rung, rung]))}
            disabled={disabled}
            onChange={(chosen) => onKeep({ ...step, which: chosen }, `steps down ${chosen.join(", ")}`)}
          />
        )}
        <Choice
          label={`Whether the source keeps it ${of}`}
          value={step.keep_source ? "stays" : "goes"}
          options={{ goes: "moves to", stays: "is put as well on" }}
          disabled={disabled}
          onChange={(word) => onKeep({ ...step, keep_source: word === "stays" }, `the point ${word}`)}
        />
        <Choice
          label={`Target ${of}`}
          value={step.target}
          options={targets}
          disabled={disabled}
          onChange={(target) => onKeep({ ...step, target }, `steps down to ${targets[target]}`)}
        />
        <Choice
          label={`Form ${of}`}
          value={step.as ?? "full"}
          options={{ full: "as a full;", chain: "chain by chain;" }}
          disabled={disabled}
          onChange={(form) => onKeep({ ...step, as: form }, `steps down as a ${form}`)}
        />
        what would be let go too soon
        <Choice
          label={`What is too short ${of}`}
          value={step.skip_if_short === false ? "goes" : "stays"}
          options={{ stays: "stays behind", goes: "goes all the same" }}
          disabled={disabled}
          onChange={(word) =>
            onKeep({ ...step, skip_if_short: word === "stays" }, `what is too short ${word}`)
          }
        />
        {canEdit && (step.lock ?? []).length === 0 && (
          <Button onClick={() => onKeep({ ...step, lock: [NEW_LOCK] }, "locked after the step-down")}>
            Lock it there
          </Button>
        )}
        {canEdit && (
          <RemoveButton
            label={`Remove step-down ${number}`}
            onRemove={() => onKeep(null, "removed a step-down")}
          />
        )}
      </Line>
      {locks}
    </>
  );
}
