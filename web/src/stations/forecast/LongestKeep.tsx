import { Box, Stack, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { keys } from "../../api/keys";
import type { JobOut } from "../../api/types";
import { useDesign } from "../../design/context";
import { endedWithout, useAskForJob, useJobState } from "../../design/useJob";
import { Choice } from "../../shared/Choice";
import { DateWord } from "../../shared/DateWord";
import { countText, writtenDate } from "../../shared/format";
import { NotDone } from "../../shared/NotDone";
import { Notice } from "../../shared/Notice";

/** The longest keep of one rule with which a target is not full by a date. */
export function LongestKeep({ target }: { target: string }) {
  const { design, days } = useDesign();
  const { document } = design;
  const rules = rulesOn(design.document, target);
  const last = days.dates.at(-1) ?? "";
  const [rung, setRung] = useState("");
  const [until, setUntil] = useState(last);
  const chosen = rung in rules ? rung : (Object.keys(rules)[0] ?? "");
  const hasRoom = document.targets.find((one) => one.id === target)?.capacity != null;
  if (!hasRoom)
    return <Notice title="No capacity">This target grows with use, so any keep fits on it.</Notice>;
  if (!chosen) return <Notice title="No rule">No ladder rules what lies here.</Notice>;
  return (
    <Box sx={{ px: 2 }}>
      <Stack direction="row" sx={{ gap: 1, alignItems: "center", flexWrap: "wrap", mb: 1 }}>
        <Typography color="textSecondary">Kept as long as fits until</Typography>
        <DateWord
          label="Until when it must fit"
          value={until}
          disabled={false}
          onKeep={async (day) => {
            setUntil(day ?? last);
            return true;
          }}
        />
        <Typography color="textSecondary">the rule</Typography>
        <Choice label="Rule" value={chosen} options={rules} disabled={false} onChange={setRung} />
      </Stack>
      {until >= (days.dates[0] ?? "") && until <= last && (
        <Answer target={target} chosen={chosen} until={until} />
      )}
    </Box>
  );
}

function Answer({ target, chosen, until }: { target: string; chosen: string; until: string }) {
  const { design } = useDesign();
  const ask = useAskForJob();
  const [ladder = "", rung = ""] = JSON.parse(chosen) as string[];
  const asked = { kind: "keep" as const, target, ladder, rung, on: until };
  const begun = useQuery({
    queryKey: keys.longestKeep(design.id, design.revision, asked),
    queryFn: () => ask(asked),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const job = useJobState(begun.data?.id);
  const error = begun.error ?? job.error;
  if (error) return <Notice title="This cannot be computed" error={error} />;
  if (endedWithout(job.data))
    return <NotDone job={job.data} title="This cannot be computed" onAgain={() => void begun.refetch()} />;
  if (!job.data?.keep) return <Notice title="Trying keeps…" />;
  return <Found longest={job.data.keep} until={until} />;
}

function Found({ longest, until }: { longest: LongestKeepFound; until: string }) {
  const unit = (count: number) => `${countText(count)} ${longest.unit}${count === 1 ? "" : "s"}`;
  return (
    <Typography data-testid="longest">
      {longest.count === null
        ? `Not even ${unit(1)} fits until ${writtenDate(until)}: even with this rule cut to nothing, others fill the target`
        : longest.limit
          ? `Even ${unit(longest.count ?? 0)} fit, the longest that is allowed`
          : `${unit(longest.count ?? 0)} fit`}
      ; it is {longest.now_words} now.
      {longest.full_on &&
        ` With one more ${longest.unit} it would be full on ${writtenDate(longest.full_on)}.`}{" "}
      <span style={{ opacity: 0.75 }}>Found by {longest.runs} runs of the forecast.</span>
    </Typography>
  );
}

type LongestKeepFound = NonNullable<JobOut["keep"]>;

/** The rules of the ladders whose copies lie on a target, or step down to it, in words. */
function rulesOn(document: import("../../api/types").DesignDocument, target: string): Record<string, string> {
  const ladders = new Set(
    document.routes
      .flatMap((route) => route.copies)
      .filter(
        (copy) => copy.target === target || (copy.step_downs ?? []).some((step) => step.target === target),
      )
      .map((copy) => copy.ladder),
  );
  const found: Record<string, string> = {};
  for (const ladder of document.ladders.filter((one) => ladders.has(one.id))) {
    const recent = (ladder.recent ?? []).map((rule, at) => ({
      rule,
      name: at === 0 ? "recent" : `recent ${at + 1}`,
    }));
    const lengths = recent.filter(({ rule }) => typeof rule.keep === "string" || "points" in rule.keep);
    for (const name of [...lengths.map((one) => one.name), ...(ladder.rungs ?? []).map((rung) => rung.name)])
      found[JSON.stringify([ladder.id, name])] = `${name} of ${ladder.name || ladder.id}`;
  }
  return found;
}
