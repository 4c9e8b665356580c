import { Box, Button, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import { useEffect } from "react";
import type { Marginal } from "../../api/types";
import { useDesign } from "../../design/context";
import { useWork } from "../../design/useWork";
import { bytesText, countText, writtenDate } from "../../shared/format";
import { Notice } from "../../shared/Notice";
import { saveTable } from "../../shared/saveTable";
import { Progress } from "./Progress";

/** What would not be on a target without each rule, the heaviest first: each from a second run of the engine. */
export function Marginals({ target }: { target: string }) {
  const { design, on } = useDesign();
  const { work, fresh, begin, stop, error } = useWork("rules");
  // biome-ignore lint/correctness/useExhaustiveDependencies: begun anew when the design or the date is another
  useEffect(() => {
    if (!fresh) begin();
  }, [design.revision, on]);
  if (error) return <Notice title="This cannot be computed" error={error} />;
  if (work?.state === "failed") return <Notice title="This cannot be computed">{work.failure}</Notice>;
  if (work?.state === "running")
    return (
      <Box sx={{ px: 2, py: 1 }}>
        <Progress work={work} what="Rules taken away" onStop={stop} />
      </Box>
    );
  if (!work?.rules || !fresh) return <Notice title="Taking rules away one by one…" />;
  return <Ranked marginals={work.rules} target={target} />;
}

function Ranked({ marginals, target }: { marginals: Marginal[]; target: string }) {
  const { design, on } = useDesign();
  const { inks } = useTheme();
  const ladders = new Map(design.document.ladders.map((one) => [one.id, one.name || one.id]));
  const rows = marginals
    .map((one) => ({ ...one, here: one.differences.find((found) => found.target === target) }))
    .filter((one) => one.here !== undefined || one.refused)
    .sort((one, other) => Math.abs(other.here?.stored_bytes ?? 0) - Math.abs(one.here?.stored_bytes ?? 0));
  const widest = Math.max(1, ...rows.map((row) => Math.abs(row.here?.stored_bytes ?? 0)));
  const save = () =>
    saveTable(
      `rules-on-${target}-${on}`,
      ["sort", "owner", "rule", "points", "stored_bytes", "peak_bytes", "full_on_without"],
      rows.map(({ rule, here }) => [
        rule.sort,
        rule.owner,
        rule.words,
        here?.points,
        here?.stored_bytes,
        here?.peak_bytes,
        here?.full_on,
      ]),
    );
  return (
    <Box sx={{ px: 2, pb: 1 }}>
      <Typography component="div" color="textSecondary" sx={{ mb: 0.5 }}>
        If a rule were not there, this much less would be here at the end of {writtenDate(on)}. The shares do
        not sum: what two rules claim stays when either goes.
        <Button onClick={save}>CSV</Button>
      </Typography>
      {rows.length === 0 && (
        <Typography>No single rule matters here: whichever goes, others claim the same.</Typography>
      )}
      <Box
        component="table"
        aria-label="What each rule is worth"
        sx={{ width: "100%", borderSpacing: "0 2px" }}
      >
        <tbody>
          {rows.map(({ rule, here, refused }) => (
            <tr key={`${rule.sort} ${rule.owner} ${rule.place}`}>
              <td style={{ width: "46%" }}>
                <b>{ladders.get(rule.owner) ?? rule.owner}</b>: {rule.words}
              </td>
              <td style={{ width: "24%" }}>
                <Box
                  sx={{
                    height: 12,
                    width: `${(100 * Math.abs(here?.stored_bytes ?? 0)) / widest}%`,
                    minWidth: "1px",
                    bgcolor: rule.sort === "lock" ? inks.brass : inks.ramp[4],
                  }}
                />
              </td>
              <td style={{ textAlign: "right" }}>{here ? bytesText(here.stored_bytes) : ""}</td>
              <td style={{ textAlign: "right" }}>{here ? `${countText(here.points)} points` : refused}</td>
              <td style={{ textAlign: "right" }}>
                {here ? `${bytesText(here.peak_bytes)} at the peak` : ""}
              </td>
            </tr>
          ))}
        </tbody>
      </Box>
    </Box>
  );
}
