import { Box, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { useMemo } from "react";
import { client, unwrap } from "../../api/client";
import { keys } from "../../api/keys";
import type { CostOut } from "../../api/types";
import { useDesign } from "../../design/context";
import { useBands } from "../../design/useJob";
import { moneyText } from "../../shared/format";
import { Notice } from "../../shared/Notice";
import { useWidth } from "../../shared/useWidth";
import { ByteTicks, ReadableChart } from "./ReadableChart";
import { type Layer, PartList, StackedAreas } from "./Stacked";
import { useReading } from "./useReading";
import { YearTicks } from "./YearTicks";

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

function layersOf(cost: CostOut, by: Stacked, names: Map<string, string>): Layer[] {
  const beside = cost.beside.map((one) => ({ name: one.name, values: one.per_month }));
  const parts =
    by === "target"
      ? cost.targets.map((one) => ({ name: names.get(one.target) ?? one.target, values: one.per_month }))
      : cost.by_category.map((one) => ({ name: one.category, values: one.per_month }));
  return [...parts, ...beside].filter((one) => one.values.some((amount) => amount > 0));
}

const NONE: Layer[] = [];

/** The parts of the bill as they are stacked; none while the core tells them apart. */
export function useLayers(cost: CostOut, by: Stacked): { layers: Layer[]; error: unknown } {
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
  const found = told.data?.by === part ? told.data.parts : undefined;
  const layers = useMemo(() => {
    if (part === null) return layersOf(cost, by, new Map(targets.map((one) => [one.id, one.name || one.id])));
    return found?.map((one) => ({ name: one.name, values: one.per_month })) ?? NONE;
  }, [cost, by, part, targets, found]);
  return { layers, error: told.error };
}

export function CostChart({ cost, by }: { cost: CostOut; by: Stacked }) {
  const { days, place } = useDesign();
  const { inks } = useTheme();
  const [ref, width] = useWidth<HTMLDivElement>(1200);
  const { layers, error } = useLayers(cost, by);
  const places = days.month_begins.slice(0, cost.months.length);
  // A month in which cartridges are bought stands out by far; it is shown whole.
  const band = useBands()?.cost;
  // A band may reach far past what is expected; what is expected stays readable.
  const expected = Math.max(1e-9, ...cost.per_month);
  const top = Math.min(2 * expected, Math.max(expected, ...(band?.month_high ?? [])));
  const x = scaleLinear([0, days.dates.length - 1], [LEFT, width - 8]).clamp(true);
  const y = scaleLinear([0, top], [BOTTOM, TOP]).nice(4).clamp(true);
  const edge = line<number>(
    (_, place) => x(places[place] ?? 0),
    (amount) => y(amount),
  );
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
        <ByteTicks
          y={y}
          left={LEFT}
          right={width - 8}
          inWords={(amount) => moneyText(amount, cost.currency)}
        />
        <StackedAreas layers={layers} places={places} x={x} y={y} />
        {band &&
          [band.month_low, band.month_high].map((amounts, at) => (
            <path
              key={at === 0 ? "low" : "high"}
              data-band={at === 0 ? "low" : "high"}
              d={edge(amounts) ?? ""}
              fill="none"
              stroke={inks.ink}
              strokeWidth={0.9}
              strokeDasharray="1 3"
            />
          ))}
        <YearTicks x={x} days={days} top={BOTTOM} />
        <line x1={x(places[at] ?? 0)} x2={x(places[at] ?? 0)} y1={TOP} y2={BOTTOM} stroke={inks.ink} />
      </ReadableChart>
      <Typography variant="body2" color="textSecondary" aria-live="polite">
        {cost.months[at]}: {moneyText(cost.per_month[at] ?? 0, cost.currency)}
        {band &&
          `; ${moneyText(band.month_low[at] ?? 0, cost.currency)} to ${moneyText(band.month_high[at] ?? 0, cost.currency)} in eight of ten draws (dots), by what is stored; all else as expected`}
      </Typography>
      <PartList layers={layers} inWords={(part) => moneyText(layers[part]?.values[at] ?? 0, cost.currency)} />
    </Box>
  );
}
