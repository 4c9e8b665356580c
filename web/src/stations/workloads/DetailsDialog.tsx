import AddIcon from "@mui/icons-material/Add";
import { Button, Dialog, DialogActions, DialogContent, DialogTitle, Stack } from "@mui/material";
import type { Workload } from "../../api/types";
import { useDesign } from "../../design/context";
import { AmountWord } from "../../shared/AmountWord";
import { Choice } from "../../shared/Choice";
import { Line } from "../../shared/Line";
import { RemoveButton } from "../../shared/RemoveButton";
import { SizeWord } from "../../shared/SizeWord";
import { TextWord } from "../../shared/TextWord";
import { type LinesProps, MemberLines } from "./MemberLines";
import { SpeedLine } from "./SpeedLine";

type Step = NonNullable<Workload["steps"]>[number];
type CountStep = NonNullable<Workload["count_steps"]>[number];

/** What a row of the grid has no room for: dated steps of size, speeds, what is alike with others, the parts of an index. */
export function DetailsDialog({ workload, onClose }: { workload: Workload; onClose: () => void }) {
  const { canEdit, save } = useDesign();
  const name = workload.name || workload.id;
  const keep = (change: Partial<Workload>, what: string) =>
    save("workloads", workload.id, { ...workload, ...change }, `${name}: ${what}`);
  const props = { workload, canEdit, keep };
  return (
    <Dialog open onClose={onClose} aria-labelledby="details-title" fullWidth maxWidth="md">
      <DialogTitle id="details-title">Details of {name}</DialogTitle>
      <DialogContent>
        <Stack sx={{ gap: 1.25 }}>
          <EvenGrowthLine {...props} />
          <StepLines {...props} />
          <CountStepLines {...props} />
          <SpeedLine {...props} />
          <AlikeLine {...props} />
          <MemberLines {...props} />
        </Stack>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Close</Button>
      </DialogActions>
    </Dialog>
  );
}

function StepLines({ workload, canEdit, keep }: LinesProps) {
  const { design } = useDesign();
  const steps = workload.steps ?? [];
  const put = (at: number, change: Partial<Step> | null, what: string) =>
    keep(
      {
        steps: steps.flatMap((one, place) => (place !== at ? [one] : change ? [{ ...one, ...change }] : [])),
      },
      what,
    );
  return (
    <>
      {steps.map((step, at) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: steps have no id, their place is what they are known by
        <Line key={at} label={`Step ${at + 1}`}>
          On
          <TextWord
            type="date"
            label={`Date of step ${at + 1}`}
            value={step.on}
            disabled={!canEdit}
            width={142}
            onKeep={(on) => put(at, { on }, `a step on ${on}`)}
          />
          it grows by
          <SizeWord
            label={`Size of step ${at + 1}`}
            value={step.add}
            disabled={!canEdit}
            onKeep={(add) => put(at, { add: add ?? 0 }, `a step of ${add ?? 0}`)}
          />
          {canEdit && (
            <RemoveButton
              label={`Remove step ${at + 1}`}
              onRemove={() => void put(at, null, "without a step")}
            />
          )}
        </Line>
      ))}
      {canEdit && (
        <Button
          startIcon={<AddIcon />}
          sx={{ alignSelf: "flex-start" }}
          onClick={() =>
            void keep({ steps: [...steps, { on: design.document.starts, add: "1 TB" }] }, "a dated step")
          }
        >
          A dated step of its size
        </Button>
      )}
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

function CountStepLines({ workload, canEdit, keep }: LinesProps) {
  const { design } = useDesign();
  const steps = workload.count_steps ?? [];
  const put = (at: number, change: Partial<CountStep> | null, what: string) =>
    keep(
      {
        count_steps: steps.flatMap((one, place) =>
          place !== at ? [one] : change ? [{ ...one, ...change }] : [],
        ),
      },
      what,
    );
  return (
    <>
      {steps.map((step, at) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: steps have no id, their place is what they are known by
        <Line key={at} label={`Machines ${at + 1}`}>
          From
          <TextWord
            type="date"
            label={`Date of more machines ${at + 1}`}
            value={step.on}
            disabled={!canEdit}
            width={142}
            onKeep={(on) => put(at, { on }, `more machines from ${on}`)}
          />
          on there are
          <AmountWord
            label={`Number of more machines ${at + 1}`}
            value={step.add}
            disabled={!canEdit}
            onKeep={(add) => put(at, { add }, `${add} machines more`)}
          />
          machines more
          {canEdit && (
            <RemoveButton
              label={`Remove more machines ${at + 1}`}
              onRemove={() => void put(at, null, "without more machines")}
            />
          )}
        </Line>
      ))}
      {canEdit && (
        <Button
          startIcon={<AddIcon />}
          sx={{ alignSelf: "flex-start" }}
          onClick={() =>
            void keep(
              { count_steps: [...steps, { on: design.document.starts, add: 1 }] },
              "more machines from a date on",
            )
          }
        >
          More machines from a date on
        </Button>
      )}
    </>
  );
}

function AlikeLine({ workload, canEdit, keep }: LinesProps) {
  const { alike } = workload;
  return (
    <Line>
      With others it has
      <Choice
        label="What it has in common"
        value={alike ? "some" : "none"}
        options={{ none: "nothing in common", some: "in common" }}
        disabled={!canEdit}
        onChange={(word) =>
          void keep(
            { alike: word === "none" ? null : { group: "alike", percent: 50 } },
            `has ${word} in common`,
          )
        }
      />
      {alike && (
        <>
          <AmountWord
            label="Share in common in percent"
            value={alike.percent}
            disabled={!canEdit}
            onKeep={(percent) => keep({ alike: { ...alike, percent } }, `${percent} % in common`)}
          />
          % of its data, with the group
          <TextWord
            label="Group of those that are alike"
            value={alike.group}
            disabled={!canEdit}
            width={130}
            onKeep={(group) => keep({ alike: { ...alike, group } }, `alike with ${group}`)}
          />
        </>
      )}
    </Line>
  );
}
