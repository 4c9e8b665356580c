import { Stack, Typography } from "@mui/material";
import { useFindings } from "../../design/useFindings";
import { useJob } from "../../design/useJob";
import { FindingNotes } from "../../shared/FindingNotes";
import { countText } from "../../shared/format";
import { Word } from "../../shared/Word";

/** All slips of the design in one place, each with its way out: those of time first, then those of rules. */
export function FindingsView() {
  const ofRules = useFindings();
  const { job, fresh } = useJob("nights");
  const ofNights = fresh ? (job?.nights?.findings ?? []) : [];
  const count = ofRules.length + ofNights.length;
  return (
    <Stack sx={{ gap: 1.5 }}>
      <Stack direction="row" sx={{ alignItems: "center", gap: 2 }}>
        <Typography variant="h2">
          <Word term="finding">Findings</Word>
        </Typography>
        <Typography role="status">
          {count === 0 ? "Nothing to be mended is known." : `${countText(count)} to look at.`}
        </Typography>
      </Stack>
      {job?.nights && !fresh && (
        <Typography color="textSecondary">
          Nights were followed in an earlier state of the design; follow them again for what they show now.
        </Typography>
      )}
      {!job?.nights && (
        <Typography color="textSecondary">
          Follow all nights, in Forecast, for what is late, starts too early or never catches up.
        </Typography>
      )}
      <FindingNotes findings={ofNights} />
      <FindingNotes findings={ofRules} />
    </Stack>
  );
}
