import { Box, Button, Stack, Typography } from "@mui/material";
import type { JobOut, Unknown } from "../../api/types";
import { WHOLE } from "../../api/types";
import { settingsOf, stockOf } from "../../design/changes";
import { useDesign } from "../../design/context";
import { goesOn, useJob } from "../../design/useJob";
import { AmountWord } from "../../shared/AmountWord";
import { countText } from "../../shared/format";
import { freshId } from "../../shared/ids";
import { Notice } from "../../shared/Notice";
import { Word } from "../../shared/Word";
import { BandResults } from "./BandResults";
import { Progress } from "./Progress";
import { UnknownLine } from "./UnknownLine";

/** What is not known of workloads, and what many draws of it make of the targets. */
export function UnknownView() {
  const { design, canEdit, save } = useDesign();
  const stock = stockOf(design.document);
  const { job, fresh, begin, stop, error } = useJob("bands");
  const keep = (unknowns: Unknown[], what: string) => save("stock", WHOLE, { ...stock, unknowns }, what);
  const change = (at: number) => (next: Unknown | null, what: string) =>
    keep(
      stock.unknowns.flatMap((one, place) => (place !== at ? [one] : next ? [next] : [])),
      what,
    );
  const add = () =>
    keep(
      [
        ...stock.unknowns,
        {
          id: freshId("unknown", stock.unknowns),
          name: "",
          workloads: { ids: [], tags: [firstTag(design.document)] },
        },
      ],
      "something that is not known",
    );
  return (
    <Stack sx={{ height: "100%", minHeight: 0, overflow: "auto", px: 2, pt: 0.5, gap: 1 }}>
      <Stack direction="row" sx={{ gap: 1.5, alignItems: "center", flexWrap: "wrap" }}>
        <Typography variant="h2">
          <Word term="unknown">What is not known</Word>
        </Typography>
        <Typography color="textSecondary">
          One in ten below low, one in ten above high. Workloads move together by
        </Typography>
        <AmountWord
          label="Correlation"
          value={design.document.correlation ?? 0.5}
          disabled={!canEdit}
          onKeep={(correlation) =>
            save(
              "settings",
              WHOLE,
              { ...settingsOf(design.document), correlation },
              `correlation ${correlation}`,
            )
          }
        />
        <Box sx={{ flex: 1 }} />
        {canEdit && (
          <Button variant="outlined" onClick={() => void add()}>
            Add a range
          </Button>
        )}
      </Stack>
      {stock.unknowns.map((unknown, at) => (
        <UnknownLine key={unknown.id} unknown={unknown} onChange={change(at)} />
      ))}
      {stock.unknowns.length === 0 && (
        <Notice title="Everything is taken as known">
          Say how low and how high growth, change or reduction may be, and see what that does to every target.
        </Notice>
      )}
      {stock.unknowns.length > 0 && <Draws job={job} fresh={fresh} onBegin={() => begin()} onStop={stop} />}
      {error && <Notice title="This cannot be drawn" error={error} />}
      {job?.state === "failed" && <Notice title="This cannot be drawn">{job.failure}</Notice>}
      {job?.bands && fresh && <BandResults bands={job.bands} />}
    </Stack>
  );
}

interface DrawsProps {
  job: JobOut | undefined;
  fresh: boolean;
  onBegin: () => void;
  onStop: () => void;
}

/** Begins many draws, or shows how far they are. */
function Draws({ job, fresh, onBegin, onStop }: DrawsProps) {
  return (
    <Stack direction="row" sx={{ gap: 2, alignItems: "center", borderTop: 1, borderColor: "divider", pt: 1 }}>
      {job && goesOn(job) ? (
        <Progress job={job} what="Targets and assumptions" onStop={onStop} />
      ) : (
        <>
          <Button variant={fresh ? "outlined" : "contained"} onClick={onBegin}>
            Draw {countText(1000)} times
          </Button>
          <Typography color="textSecondary">{drawnWords(job, fresh)}</Typography>
        </>
      )}
    </Stack>
  );
}

function drawnWords(job: JobOut | undefined, fresh: boolean): string {
  if (job?.bands && fresh)
    return `${countText(job.bands.draws)} draws, seed ${job.bands.seed}, correlation ${job.bands.correlation}`;
  if (job?.bands) return "What was drawn is about an earlier state of the design.";
  return job?.state === "stopped" ? "Stopped; nothing was drawn." : "";
}

type Document = ReturnType<typeof useDesign>["design"]["document"];

function firstTag(document: Document): string {
  return document.workloads.flatMap((one) => one.tags ?? [])[0] ?? "";
}
