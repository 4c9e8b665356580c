import CloseIcon from "@mui/icons-material/Close";
import { Box, IconButton, Stack, Typography } from "@mui/material";
import { useDesign } from "../../design/context";
import { Choice } from "../../shared/Choice";
import { TextWord } from "../../shared/TextWord";
import { KIND_NAMES } from "../../shared/words";
import { PatternWords } from "./RunPattern";
import { Dates, type Props, SingleTimes, Times } from "./RunTimes";

/** One run as a sentence: what it takes, how often, on which days, at which times. */
export function RunWords({ run, reading, removable, onKeep }: Props) {
  const { canEdit } = useDesign();
  const name = run.name || run.id;
  return (
    <Box
      sx={{
        borderTop: 1,
        borderColor: "divider",
        pt: 0.75,
        display: "grid",
        gridTemplateColumns: "1fr 30px",
        alignItems: "center",
      }}
    >
      <Stack direction="row" sx={{ gap: 0.75, alignItems: "center", flexWrap: "wrap" }}>
        <TextWord
          label={`Name of ${name}`}
          value={run.name ?? ""}
          placeholder={run.id}
          disabled={!canEdit}
          quiet
          width={118}
          onKeep={(text) => {
            onKeep({ ...run, name: text }, `${name} renamed to ${text}`);
            return undefined;
          }}
        />
        <Choice
          label={`Kind of ${name}`}
          value={run.kind}
          options={KIND_NAMES}
          disabled={!canEdit}
          onChange={(kind) => onKeep({ ...run, kind }, `${name}: ${KIND_NAMES[kind]}`)}
        />
        <SingleTimes run={run} onKeep={onKeep} />
        {reading?.pattern && <PatternWords run={run} pattern={reading.pattern} onKeep={onKeep} />}
        {run.rrule && reading && !reading.pattern && <Typography>{reading.sentence}</Typography>}
        {run.rrule && <Times run={run} reading={reading} onKeep={onKeep} />}
        {run.rrule && <Dates run={run} onKeep={onKeep} />}
      </Stack>
      {canEdit && removable && (
        <IconButton
          size="small"
          aria-label={`Remove the run ${name}`}
          onClick={() => onKeep(null, `removed ${name}`)}
        >
          <CloseIcon fontSize="small" />
        </IconButton>
      )}
    </Box>
  );
}
