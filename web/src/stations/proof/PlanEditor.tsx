import AddIcon from "@mui/icons-material/Add";
import { Box, Button, Stack } from "@mui/material";
import type { RecoveryPlan } from "../../api/types";
import { useDesign } from "../../design/context";
import { useTakeOut } from "../../design/useTakeOut";
import { Choice } from "../../shared/Choice";
import { ChosenWorkloads } from "../../shared/ChosenWorkloads";
import { Line } from "../../shared/Line";
import { RemoveButton } from "../../shared/RemoveButton";
import { TextWord } from "../../shared/TextWord";
import { TimeWord } from "../../shared/TimeWord";
import { FIRST } from "../../shared/words";

type Group = RecoveryPlan["groups"][number];
/** A group as one begins: of no workload yet. */
export const NEW_GROUP = FIRST.group as unknown as Group;

export function PlanEditor({ plan }: { plan: RecoveryPlan }) {
  const { design, canEdit, save } = useDesign();
  const { takeOut, dialog } = useTakeOut();
  const name = plan.name || plan.id;
  const keep = (change: Partial<RecoveryPlan>, what: string) =>
    save("recovery_plans", plan.id, { ...plan, ...change }, `${name}: ${what}`);
  const put = (at: number, group: Group | null, what: string) =>
    keep(
      { groups: plan.groups.flatMap((one, place) => (place !== at ? [one] : group ? [group] : [])) },
      what,
    );
  const sites = Object.fromEntries(design.document.sites.map((one) => [one.id, `at ${one.name || one.id}`]));
  return (
    <Stack sx={{ gap: 0.75 }}>
      <Stack direction="row" sx={{ alignItems: "baseline", gap: 2 }}>
        <TextWord
          heading
          label="Name of the plan"
          value={plan.name ?? ""}
          placeholder={plan.id}
          disabled={!canEdit}
          width={320}
          onKeep={(text) => keep({ name: text }, `renamed to ${text}`)}
        />
        <Box sx={{ flex: 1 }} />
        {canEdit && (
          <Button color="error" onClick={() => takeOut("recovery_plans", plan.id, name)}>
            Remove
          </Button>
        )}
      </Stack>
      <Line label="How it begins">
        It restores
        <Choice
          label="Place of the plan"
          value={plan.place ?? ""}
          options={{ "": "each workload at its own site", ...sites }}
          disabled={!canEdit}
          onChange={(place) => void keep({ place: place || null }, `restores ${place || "in place"}`)}
        />
        <Choice
          label="What is written back"
          value={plan.in_place ? "changes" : "whole"}
          options={{ whole: "as a whole", changes: "only what has changed since" }}
          disabled={!canEdit}
          onChange={(word) => void keep({ in_place: word === "changes" }, `writes back ${word}`)}
        />
        and begins
        <TimeWord
          label="Time until the plan begins"
          value={plan.ready}
          placeholder="at once"
          disabled={!canEdit}
          onKeep={(ready) => keep({ ready }, `begins after ${ready ?? "no time"}`)}
        />
        after it is called for.
      </Line>
      {plan.groups.map((group, at) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: groups have no id, their place is what they are known by
        <Stack key={at} role="group" aria-label={`Group ${at + 1}`} sx={{ gap: 0.5 }}>
          <Line>
            {`Group ${at + 1}, then starting and checking takes`}
            <TimeWord
              label={`Time after group ${at + 1}`}
              value={group.then}
              disabled={!canEdit}
              onKeep={(then) => put(at, { ...group, then }, `group ${at + 1}: then ${then ?? "nothing"}`)}
            />
            {canEdit && plan.groups.length > 1 && (
              <RemoveButton
                label={`Remove group ${at + 1}`}
                onRemove={() => void put(at, null, "a group less")}
              />
            )}
          </Line>
          <ChosenWorkloads
            label={`group ${at + 1}`}
            chosen={group.workloads}
            onKeep={(workloads, what) => put(at, { ...group, workloads }, `group ${at + 1} ${what}`)}
          />
        </Stack>
      ))}
      {canEdit && (
        <Button
          startIcon={<AddIcon />}
          sx={{ alignSelf: "flex-start" }}
          onClick={() => void keep({ groups: [...plan.groups, NEW_GROUP] }, "one more group")}
        >
          Add a group
        </Button>
      )}
      {dialog}
    </Stack>
  );
}
