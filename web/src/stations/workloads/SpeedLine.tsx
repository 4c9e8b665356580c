import { Choice } from "../../shared/Choice";
import { durationWords } from "../../shared/durations";
import { Line } from "../../shared/Line";
import { PriorityWord } from "../../shared/PriorityWord";
import { SpeedWord } from "../../shared/SpeedWord";
import { TimeWord } from "../../shared/TimeWord";
import type { LinesProps } from "./MemberLines";

/** How fast one machine of a workload is read and written, how long it is searched for changes, and which comes first. */
export function SpeedLine({ workload, canEdit, keep }: LinesProps) {
  return (
    <Line label="Speeds">
      One machine is read at
      <SpeedWord
        label="Reading speed of a machine"
        value={workload.read_speed}
        disabled={!canEdit}
        onKeep={(speed) => keep({ read_speed: speed }, `read at ${speed ?? "any speed"}`)}
      />
      and written at
      <SpeedWord
        label="Writing speed of a machine"
        value={workload.write_speed}
        disabled={!canEdit}
        onKeep={(speed) => keep({ write_speed: speed }, `written at ${speed ?? "any speed"}`)}
      />
      ; finding what changed takes
      <TimeWord
        label="Time to find what changed"
        value={workload.scan}
        disabled={!canEdit}
        onKeep={(scan) => keep({ scan }, `scanned in ${scan ? durationWords(scan) : "no time"}`)}
      />
      . It comes
      <PriorityWord
        label="Priority of the workload"
        value={workload.priority}
        disabled={!canEdit}
        onKeep={(priority) => void keep({ priority }, `priority ${priority ?? "not said"}`)}
      />
      and is restored
      <Choice
        label="Whether it is needed first"
        value={workload.needed_first ? "first" : "turn"}
        options={{ turn: "with its group", first: "before all else (a catalogue, keys)" }}
        disabled={!canEdit}
        onChange={(word) => void keep({ needed_first: word === "first" }, `restored ${word}`)}
      />
    </Line>
  );
}
