import AddIcon from "@mui/icons-material/Add";
import { Box, Button, Stack } from "@mui/material";
import { VOCABULARY } from "../../api/generated/vocabulary";
import type { Ask, Duty } from "../../api/types";
import { useDesign } from "../../design/context";
import { useTakeOut } from "../../design/useTakeOut";
import { ChosenWorkloads } from "../../shared/ChosenWorkloads";
import { durationWords } from "../../shared/durations";
import { Line } from "../../shared/Line";
import { RemoveButton } from "../../shared/RemoveButton";
import { TextWord } from "../../shared/TextWord";
import { TimeWord } from "../../shared/TimeWord";
import { AskWords } from "./AskWords";

const NEW_ASK = VOCABULARY.first.ask as Partial<Ask> as Ask;

/** A duty in sentences whose words are chosen and typed. */
export function DutyEditor({ duty, onClose }: { duty: Duty; onClose: () => void }) {
  const { canEdit, save } = useDesign();
  const { takeOut, dialog } = useTakeOut();
  const name = duty.name || duty.id;
  const keep = (change: Partial<Duty>, what: string) =>
    save("duties", duty.id, { ...duty, ...change }, `${name}: ${what}`);
  const put = (at: number, ask: Ask | null, what: string) =>
    keep({ asks: duty.asks.flatMap((one, place) => (place !== at ? [one] : ask ? [ask] : [])) }, what);
  return (
    <Stack sx={{ gap: 0.75 }}>
      <Stack direction="row" sx={{ alignItems: "baseline", gap: 2 }}>
        <TextWord
          heading
          label={`Name of the duty ${name}`}
          value={duty.name ?? ""}
          placeholder={duty.id}
          disabled={!canEdit}
          width={430}
          onKeep={(text) => keep({ name: text }, `renamed to ${text}`)}
        />
        <TextWord
          label={`Source of ${name}`}
          value={duty.source ?? ""}
          placeholder="no source named"
          disabled={!canEdit}
          quiet
          width={320}
          onKeep={(source) => keep({ source }, `source ${source || "not named"}`)}
        />
        <Box sx={{ flex: 1 }} />
        <Button onClick={onClose}>Done</Button>
        {canEdit && (
          <Button color="error" onClick={() => takeOut("duties", duty.id, name)}>
            Remove
          </Button>
        )}
      </Stack>
      <ChosenWorkloads
        label={name}
        chosen={duty.workloads}
        onKeep={(workloads, what) => keep({ workloads }, what)}
      />
      <Line label={`When ${name} begins`}>
        What has to begin first has
        <TimeWord
          label={`Time to begin ${name}`}
          value={duty.first_by ?? null}
          placeholder="7 days"
          disabled={!canEdit}
          onKeep={(first_by) =>
            keep({ first_by }, `begins within ${first_by ? durationWords(first_by) : "7 days"}`)
          }
        />
        from when a workload begins.
      </Line>
      {duty.asks.map((ask, at) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: asks have no id, their place is what they are known by
        <Line key={at} label={`Ask ${at + 1} of ${name}`}>
          <AskWords
            label={`ask ${at + 1} of ${name}`}
            ask={ask}
            onKeep={(next, what) => put(at, next, what)}
          />
          {canEdit && duty.asks.length > 1 && (
            <RemoveButton
              label={`Remove ask ${at + 1} of ${name}`}
              onRemove={() => void put(at, null, "an ask less")}
            />
          )}
        </Line>
      ))}
      {canEdit && (
        <Button
          startIcon={<AddIcon />}
          sx={{ alignSelf: "flex-start" }}
          onClick={() => void keep({ asks: [...duty.asks, { ...NEW_ASK }] }, "one more ask")}
        >
          Add an ask
        </Button>
      )}
      {dialog}
    </Stack>
  );
}
