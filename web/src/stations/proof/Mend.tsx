import { Button, Stack, Typography } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { useDesign } from "../../design/context";
import { goesOn, useAskForJob, useJobState } from "../../design/useJob";
import { countText } from "../../shared/format";
import { Refusal } from "../../shared/Refusal";

/** What would make an ask hold: the smallest change that was tried, offered as an edit. */
export function Mend({ duty, ask, asks }: { duty: string; ask: number; asks: string }) {
  const { canEdit, save } = useDesign();
  const askForJob = useAskForJob();
  const begin = useMutation({ mutationFn: () => askForJob({ kind: "mend", duty, ask }) });
  const { data: job } = useJobState(begin.data?.id);
  const found = job?.mend;
  const runs = begin.isPending || goesOn(job);
  const ladder = found?.ladder;
  return (
    <Stack direction="row" sx={{ gap: 1.5, alignItems: "center", flexWrap: "wrap", pl: 1.25 }} role="status">
      {!found && (
        <Button loading={runs} onClick={() => begin.mutate()} aria-label={`What would mend it? ${asks}`}>
          What would mend it?
        </Button>
      )}
      {runs && <Typography color="textSecondary">Trying one change after another…</Typography>}
      {found && !ladder && (
        <Typography>None of {countText(found.tried)} longer keeps alone would make it hold.</Typography>
      )}
      {ladder && (
        <>
          <Typography>
            <b>{found.sentence}</b> Then it holds for all of its workloads.
          </Typography>
          {canEdit && (
            <Button
              variant="contained"
              onClick={() => void save("ladders", ladder.id, ladder, found.sentence.replace(/\.$/, ""))}
            >
              Make this change
            </Button>
          )}
        </>
      )}
      {job?.state === "failed" && <Typography color="error">{job.failure}</Typography>}
      <Refusal error={begin.error} />
    </Stack>
  );
}
