import type { By, CostOut, DetailSeries } from "../../api/types";
import { useDesign } from "../../design/context";
import { DayTable } from "../../shared/DayTable";
import { bytesText, countText, moneyText } from "../../shared/format";
import { Notice } from "../../shared/Notice";
import type { Layer } from "./Stacked";
import type { Span } from "./useSpan";
import { useSplit } from "./useSplit";

/** The days of a target's chart in figures. */
export function SeriesTable({ series }: { series: DetailSeries }) {
  const { days } = useDesign();
  const columns: [string, (at: number) => string][] = [
    ["points", (at) => countText(series.points[at] ?? 0)],
    ["stored", (at) => bytesText(series.stored_bytes[at] ?? 0)],
    ["peak", (at) => bytesText(series.peak_bytes[at] ?? 0)],
    ["room", (at) => (series.room_bytes ? bytesText(Math.max(0, series.room_bytes[at] ?? 0)) : "")],
    ["stand for", (at) => bytesText(series.logical_bytes[at] ?? 0)],
    ["moved that day", (at) => bytesText(series.moved_bytes[at] ?? 0)],
    ["cannot be freed", (at) => bytesText(series.least_bytes[at] ?? 0)],
    ["of it locked", (at) => bytesText(series.locked_bytes[at] ?? 0)],
  ];
  return (
    <DayTable
      label="The chart in figures"
      head="day"
      rows={series.places.map((place) => days.dates[place] ?? "")}
      columns={columns}
    />
  );
}

/** The days of a target's chart told apart, in figures: bytes and points of each part. */
export function SplitTable({ target, by, span }: { target: string; by: By; span: Span }) {
  const { days } = useDesign();
  const answer = useSplit(target, by, span);
  if (answer.error) return <Notice title="This cannot be told apart" error={answer.error} />;
  if (!answer.data) return <Notice title="Telling it apart…" />;
  const { places, parts } = answer.data.split;
  return (
    <DayTable
      label="The chart in figures"
      head="day"
      rows={places.map((place) => days.dates[place] ?? "")}
      columns={parts.map((part) => [
        part.name,
        (at) => `${bytesText(part.stored_bytes[at] ?? 0)}, ${countText(part.points[at] ?? 0)}`,
      ])}
    />
  );
}

/** Every month of the cost chart in figures. */
export function MonthsTable({ cost, layers }: { cost: CostOut; layers: Layer[] }) {
  return (
    <DayTable
      label="All months in figures"
      head="month"
      rows={cost.months}
      columns={[
        ...layers.map(({ name, values }): [string, (at: number) => string] => [
          name,
          (at) => moneyText(values[at] ?? 0, cost.currency),
        ]),
        ["together", (at) => moneyText(cost.per_month[at] ?? 0, cost.currency)],
      ]}
    />
  );
}
