import { Box, Stack, Typography } from "@mui/material";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { client, unwrap } from "../../api/client";
import { keys } from "../../api/keys";
import type { CostOut } from "../../api/types";
import { useDesign } from "../../design/context";
import { Below } from "../../shared/Below";
import { Choice } from "../../shared/Choice";
import { moneyText } from "../../shared/format";
import { Notice } from "../../shared/Notice";
import { monthText } from "../../shared/style";
import { useAddressed, useAlone } from "../../shared/useAddressed";
import { BesideCosts } from "./BesideCosts";
import { ChartTools } from "./ChartTools";
import { CostChart, STACKED, type Stacked, useStack, withCost } from "./CostChart";
import { MonthTable } from "./CostMonths";
import { OneMonthMore } from "./OneMonthMore";
import { MonthsTable } from "./SeriesTable";

const TABLES: Record<Stacked, string> = {
  target: "cost",
  category: "cost",
  route: "cost-by-route",
  workload: "cost-by-workload",
  tag: "cost-by-tag",
};
const BELOW = {
  table: "the month in figures",
  months: "all months in figures",
  beside: "what costs beside storage",
  longer: "what one more month of each rung costs",
};

/** What the design costs, month by month. */
export function CostView() {
  const { design, on } = useDesign();
  const id = design.id;
  const [by, setBy] = useAddressed("by", STACKED, "target");
  const [below, setBelow] = useAddressed("below", BELOW, "table");
  const [alone, setAlone] = useAlone();
  const answer = useQuery({
    queryKey: keys.cost(id, design.revision, on),
    queryFn: () => unwrap(client.GET("/api/designs/{id}/cost", { params: { path: { id }, query: { on } } })),
    placeholderData: keepPreviousData,
  });
  if (answer.error) return <Notice title="The cost cannot be shown" error={answer.error} />;
  if (!answer.data) return <Notice title="Adding it up…" />;
  const cost = answer.data;
  if (!cost.per_month.some((amount) => amount > 0))
    return (
      <>
        <Notice title="Nothing costs anything yet">
          Prices are said on each target: what a TB costs a month, requests, retrieval, traffic, cartridges.
        </Notice>
        <BesideCosts />
      </>
    );
  const month = monthText(`${cost.months[cost.at]}-01`);
  return (
    <Stack component="section" aria-label="Cost" sx={{ height: "100%", minHeight: 0, pt: 0.5 }}>
      <Stack direction="row" sx={{ px: 2, gap: 2, alignItems: "baseline" }}>
        <Typography variant="h2">Cost</Typography>
        <Typography>
          {month}: <b data-testid="month-cost">{moneyText(cost.per_month[cost.at] ?? 0, cost.currency)}</b>
          {", all years together "}
          {moneyText(cost.whole, cost.currency)}
        </Typography>
        <Box sx={{ flex: 1 }} />
        <Typography color="textSecondary">stacked</Typography>
        <Choice label="Stacked" value={by} options={STACKED} disabled={false} onChange={setBy} />
        <ChartTools name={`cost-${by}`} table={TABLES[by]} />
      </Stack>
      {!alone && (
        <Box data-chart sx={{ px: 2 }}>
          <CostChart cost={cost} by={by} />
        </Box>
      )}
      <Below
        label="What stands below the cost"
        value={below}
        options={BELOW}
        onChange={setBelow}
        alone={alone}
        onAlone={setAlone}
      >
        {below === "table" && <MonthTable cost={cost} />}
        {below === "months" && <AllMonths cost={cost} by={by} />}
        {below === "beside" && <BesideCosts />}
        {below === "longer" && <OneMonthMore currency={cost.currency} />}
      </Below>
    </Stack>
  );
}

function AllMonths({ cost, by }: { cost: CostOut; by: Stacked }) {
  return <MonthsTable cost={cost} layers={withCost(useStack(cost, by).layers)} />;
}
