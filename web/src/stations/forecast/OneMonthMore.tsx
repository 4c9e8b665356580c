import { Box, Button, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import { useEffect } from "react";
import { useDesign } from "../../design/context";
import { useWork } from "../../design/useWork";
import { moneyText } from "../../shared/format";
import { Notice } from "../../shared/Notice";
import { saveTable } from "../../shared/saveTable";
import { Progress } from "./Progress";

/** What each rung would cost if it were kept a month longer, the dearest first. */
export function OneMonthMore({ currency }: { currency: string }) {
  const { design } = useDesign();
  const { inks } = useTheme();
  const { work, fresh, begin, stop, error } = useWork("longer");
  // biome-ignore lint/correctness/useExhaustiveDependencies: begun anew when the design is another
  useEffect(() => {
    if (!fresh) begin();
  }, [design.revision]);
  if (error) return <Notice title="This cannot be computed" error={error} />;
  if (work?.state === "failed") return <Notice title="This cannot be computed">{work.failure}</Notice>;
  if (work?.state === "running") return <Progress work={work} what="Rungs made longer" onStop={stop} />;
  if (!work?.longer || !fresh) return <Notice title="Making rungs longer one by one…" />;
  const rows = [...work.longer].sort((one, other) => other.whole_cost - one.whole_cost);
  const widest = Math.max(1e-9, ...rows.map((row) => row.whole_cost));
  const save = () =>
    saveTable(
      "one-month-more",
      ["ladder", "rung", "added", "cost_of_all_years", "cost_a_month_in_the_last_year", "currency"],
      rows.map((row) => [row.ladder, row.rung, row.added, row.whole_cost, row.monthly_cost, currency]),
    );
  const ladders = new Map(design.document.ladders.map((one) => [one.id, one.name || one.id]));
  return (
    <>
      <Typography component="div" color="textSecondary">
        Each rung kept longer alone, from a second run of the forecast and its bill.
        <Button onClick={save}>CSV</Button>
      </Typography>
      <Box component="table" aria-label="One more month of each rung" sx={{ width: "100%" }}>
        <tbody>
          {rows.map((row) => (
            <tr key={`${row.ladder} ${row.rung}`}>
              <td style={{ width: "34%" }}>
                <b>{ladders.get(row.ladder) ?? row.ladder}</b>: {row.rung}, {row.added}
              </td>
              <td style={{ width: "30%" }}>
                <Box
                  sx={{
                    height: 12,
                    width: `${(100 * Math.max(0, row.whole_cost)) / widest}%`,
                    minWidth: "1px",
                    bgcolor: inks.ramp[4],
                  }}
                />
              </td>
              <td style={{ textAlign: "right" }}>
                {row.refused || `${moneyText(row.whole_cost, currency)} over all years`}
              </td>
              <td style={{ textAlign: "right" }}>
                {row.refused ? "" : `${moneyText(row.monthly_cost, currency)} a month in the last`}
              </td>
            </tr>
          ))}
        </tbody>
      </Box>
    </>
  );
}
