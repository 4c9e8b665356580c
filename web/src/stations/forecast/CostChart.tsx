import { Box, Typography } from "@mui/material";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { client, unwrap } from "../../api/client";
import { keys } from "../../api/keys";
import type { Chart, CostOut } from "../../api/types";
import { useDesign } from "../../design/context";
import { useBands } from "../../design/useJob";
import { moneyText } from "../../shared/format";
import { Notice } from "../../shared/Notice";
import { monthText } from "../../shared/style";
import { useWidth } from "../../shared/useWidth";
import { ReadableChart } from "./ReadableChart";
import { scalesOf } from "./Shapes";
import { type Layer, PartList, Stack } from "./Stacked";
import { useReading } from "./useReading";

const LEFT = 78;
const [TOP, BOTTOM, HEIGHT] = [10, 196, 216];

export const STACKED = {
  target: "by target",
  category: "by category",
  route: "by route",
  workload: "by workload",
  tag: "by tag",
};
export type Stacked = keyof typeof STACKED;
type Part = Exclude<Stacked, "target" | "category">;

interface Bill {
  layers: (Layer | null)[];
  chart: Chart | undefined;
  error: unknown;
}

/** A part with what it costs in each month; null for what never costs anything. */
const layer = (name: string, values: number[]): Layer | null =>
  values.some((amount) => amount > 0) ? { name, values } : null;

const NONE: Layer[] = [];

/** The parts of the bill as they are stacked, null for what never costs anything; none while the core tells them apart. */
export function useStack(cost: CostOut, by: Stacked): Bill {
  const { design, on } = useDesign();
  const { targets } = design.document;
  const part: Part | null = by === "target" || by === "category" ? null : by;
  const told = useQuery({
    queryKey: keys.costParts(design.id, design.revision, on, part),
    queryFn: () =>
      unwrap(
        client.GET("/api/designs/{id}/cost/parts", {
          params: { path: { id: design.id }, query: { on, by: part ?? "route" } },
        }),
      ),
    enabled: part !== null,
    placeholderData: keepPreviousData,
  });
  const found = told.data?.by === part ? told.data : undefined;
  const layers = useMemo(() => {
    if (part !== null) return found?.parts.map((one) => layer(one.name, one.per_month)) ?? NONE;
    const names = new Map(targets.map((one) => [one.id, one.name || one.id]));
    const parts =
      by === "target"
        ? cost.targets.map((one) => layer(names.get(one.target) ?? one.target, one.per_month))
        : cost.by_category.map((one) => layer(one.category, one.per_month));
    return [...parts, ...cost.beside.map((one) => layer(one.name, one.per_month))];
  }, [cost, by, part, targets, found]);
  const whole = by === "target" ? cost.chart : cost.category_chart;
  return { layers, chart: part === null ? whole : found?.chart, error: told.error };
}

/** The parts of a stack that cost something. */
export const withCost = (layers: readonly (Layer | null)[]): Layer[] => layers.filter((one) => one !== null);

export function CostChart({ cost, by }: { cost: CostOut; by: Stacked }) {
  const { days, place } = useDesign();
  const [ref, width] = useWidth<HTMLDivElement>(1200);
  const { layers, chart = cost.chart, error } = useStack(cost, by);
  const shown = withCost(layers);
  const places = days.month_begins.slice(0, cost.months.length);
  // A month in which cartridges are bought stands out by far; it is shown whole.
  const band = useBands()?.cost;
  const box = { left: LEFT, right: width - 8, top: TOP, bottom: BOTTOM };
  const { x, y } = scalesOf(chart, box, band?.month_high);
  const drawn = places.map((day, at) => ({
    day,
    low: band?.month_low[at] ?? 0,
    high: band?.month_high[at] ?? 0,
  }));
  const reading = useReading(places, Math.max(0, (places[cost.at] ?? place) - 0.5), x);
  const { at } = reading;
  if (error) return <Notice title={`The cost cannot be told apart ${STACKED[by]}`} error={error} />;
  return (
    <Box ref={ref}>
      <ReadableChart
        width={width}
        height={HEIGHT}
        label={`Cost of each month ${STACKED[by]}`}
        reading={reading}
      >
        <Stack
          chart={chart}
          layers={layers}
          box={box}
          x={x}
          y={y}
          band={band ? drawn : []}
          day={places[at] ?? 0}
          inWords={(amount) => moneyText(amount, cost.currency)}
        />
      </ReadableChart>
      <Typography variant="body2" color="textSecondary" aria-live="polite">
        {monthText(`${cost.months[at]}-01`)}: {moneyText(cost.per_month[at] ?? 0, cost.currency)}
        {band &&
          `; ${moneyText(band.month_low[at] ?? 0, cost.currency)} to ${moneyText(band.month_high[at] ?? 0, cost.currency)} in eight of ten draws (dots), by what is stored; all else as expected`}
      </Typography>
      <PartList layers={shown} inWords={(part) => moneyText(shown[part]?.values[at] ?? 0, cost.currency)} />
    </Box>
  );
}
