import AddIcon from "@mui/icons-material/Add";
import CloseIcon from "@mui/icons-material/Close";
import { Box, Button, IconButton, Stack, Typography } from "@mui/material";
import { memo } from "react";
import type { Ladder, LadderReading } from "../../api/types";
import { Choice } from "../../shared/Choice";
import { DurationWord } from "../../shared/DurationWord";
import { countText } from "../../shared/format";
import { NumberField } from "../../shared/NumberField";
import { useSteady } from "../../shared/useSteady";
import { Word } from "../../shared/Word";
import { FIRST } from "../../shared/words";
import type { RowProps } from "./RuleKeep";
import { RecentWords, RungWords } from "./RuleWords";

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
        <Typography>
          <Word term="floor">In any case</Word> the newest
        </Typography>
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
              { ...ladder, logs: way === "point" ? null : FIRST.logs },
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
        {canEdit && reading && <AddRule ladder={ladder} reading={reading} onKeep={onKeep} />}
      </Stack>
    </Stack>
  );
}

function AddRule({ ladder, reading, onKeep }: { reading: LadderReading } & Pick<Props, "ladder" | "onKeep">) {
  const recent = [...ladder.recent, reading.next_recent];
  const rungs = [...ladder.rungs, reading.next_rung];
  return (
    <Stack direction="row" sx={{ gap: 1, ml: "auto" }}>
      <Button
        startIcon={<AddIcon />}
        onClick={() => onKeep({ ...ladder, recent }, "added a rule for recent points")}
      >
        Add a rule for recent points
      </Button>
      <Button startIcon={<AddIcon />} onClick={() => onKeep({ ...ladder, rungs }, "added a rung")}>
        Add a rung
      </Button>
    </Stack>
  );
}

function Remove({ bar, ladder, onKeep }: RowProps) {
  const remove = () => {
    const without = <T,>(list: T[]): T[] => list.filter((_, at) => at !== bar.place);
    const changed =
      bar.part === "recent" ? { recent: without(ladder.recent) } : { rungs: without(ladder.rungs) };
    onKeep({ ...ladder, ...changed }, `removed ${bar.label}`);
  };
  return <RemoveCross label={`Remove the rule ${bar.label}`} onClick={useSteady(remove)} />;
}

const RemoveCross = memo(function RemoveCross({ label, onClick }: { label: string; onClick: () => void }) {
  return (
    <IconButton size="small" aria-label={label} onClick={onClick}>
      <CloseIcon fontSize="small" />
    </IconButton>
  );
});
