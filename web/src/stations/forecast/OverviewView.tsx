import { Box, Stack, Typography } from "@mui/material";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, unwrap } from "../../api/client";
import { useDesign } from "../../design/context";
import { useShelves } from "../../design/useShelves";
import { useBands } from "../../design/useWork";
import { Choice } from "../../shared/Choice";
import { moneyText, writtenDate } from "../../shared/format";
import { Notice } from "../../shared/Notice";
import { OverviewTable } from "./OverviewTable";
import { TargetRow } from "./TargetRow";
import { useSeries } from "./useSeries";

const AS = { picture: "pictures", table: "a table" };

/** All targets on one page, what needs attention first. */
export function OverviewView() {
  const { design, on } = useDesign();
  const id = design.id;
  const [as, setAs] = useState<keyof typeof AS>("picture");
  const answer = useQuery({
    queryKey: ["overview", id, design.revision, on],
    queryFn: () =>
      unwrap(client.GET("/api/designs/{id}/overview", { params: { path: { id }, query: { on } } })),
    placeholderData: keepPreviousData,
  });
  const series = useSeries();
  const shelves = useShelves();
  const bands = useBands();
  const error = answer.error ?? series.error ?? shelves.error;
  if (error) return <Notice title="The forecast cannot be shown" error={error} />;
  if (!answer.data || !series.data) return <Notice title="Computing the forecast…" />;
  const { overview } = answer.data;
  const full = overview.rows.filter((row) => row.full_on !== null).length;
  return (
    <Stack sx={{ height: "100%", minHeight: 0 }}>
      <Stack direction="row" sx={{ px: 2, pt: 0.5, pb: 1, gap: 2, alignItems: "baseline", flexWrap: "wrap" }}>
        <Typography variant="h2">All targets</Typography>
        <Typography>
          {full === 0
            ? "None is full in this design"
            : `${full} of ${overview.rows.length} run full in this design`}
          ; {writtenDate(on).replace(/^\d+ /, "")} costs{" "}
          <b data-figure="cost-month">{moneyText(overview.cost_month, overview.currency)}</b>, all years{" "}
          {moneyText(overview.cost_whole, overview.currency)}.
        </Typography>
        <Box sx={{ flex: 1 }} />
        <Typography color="textSecondary">as</Typography>
        <Choice label="Shown as" value={as} options={AS} disabled={false} onChange={setAs} />
      </Stack>
      {as === "table" ? (
        <OverviewTable overview={overview} />
      ) : (
        <Box
          role="list"
          aria-label="All targets"
          sx={{ flex: 1, minHeight: 0, overflow: "auto", borderTop: 1, borderColor: "divider" }}
        >
          {overview.rows.map((row) => (
            <TargetRow
              key={row.target}
              row={row}
              currency={overview.currency}
              series={series.data.targets.find((one) => one.target === row.target)}
              band={bands?.bands.find((one) => one.target === row.target)}
              shelves={(shelves.data?.shelves ?? []).filter((shelf) => shelf.target === row.target)}
            />
          ))}
        </Box>
      )}
    </Stack>
  );
}
