import { Box, Button, Stack, Typography } from "@mui/material";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useNavigate, useParams, useSearchParams } from "react-router";
import { client, unwrap } from "../../api/client";
import { keys } from "../../api/keys";
import type { By } from "../../api/types";
import { useDesign, useShownFigures } from "../../design/context";
import { TargetFindings } from "../../design/TargetFindings";
import { useBands } from "../../design/useJob";
import { useShelves } from "../../design/useShelves";
import { Below } from "../../shared/Below";
import { Choice } from "../../shared/Choice";
import { Notice } from "../../shared/Notice";
import { Shelf } from "../../shared/Shelf";
import { useAddressed, useAlone } from "../../shared/useAddressed";
import { ChartTools } from "./ChartTools";
import { DetailChart } from "./DetailChart";
import type { Props as ChartProps, Strip } from "./detailLayout";
import { LongestKeep } from "./LongestKeep";
import { Marginals } from "./Marginals";
import { OtherPacking } from "./OtherPacking";
import { PointList } from "./PointList";
import { SeriesTable, SplitTable } from "./SeriesTable";
import { SplitChart } from "./SplitChart";
import { Headline } from "./TargetHeadline";
import { useSeries } from "./useSeries";
import { type Span, spanAround, useSpan } from "./useSpan";
import { Why } from "./Why";

const BY: Record<By | "whole", string> = {
  whole: "not at all",
  route: "by route",
  copy: "by copy",
  workload: "by workload",
  kind: "by kind",
  rung: "by the rule that claims longest",
  state: "by why they are there",
};

const BELOW = {
  why: "why there are so many",
  points: "the list of its points",
  figures: "the chart in figures",
  rules: "what each rule is worth",
  longest: "how long a rung could be kept",
  packing: "its packing the other way",
};

const STRIP: Record<Strip, string> = {
  points: "points",
  moved: "moved a day",
  logical: "what they stand for",
};

/** One target: its bytes through time, its shelf at the as-of date, and the reasons for both. */
export function OneTarget() {
  const { design, on } = useDesign();
  const { consequences } = useShownFigures();
  const { key } = useParams();
  const navigate = useNavigate();
  const [search] = useSearchParams();
  const [by, setBy] = useAddressed("by", BY, "whole");
  const [strip, setStrip] = useAddressed("with", STRIP, "points");
  const [below, setBelow] = useAddressed("below", BELOW, "why");
  const [span, setSpan] = useSpan();
  const [alone, setAlone] = useAlone();
  const target = key ?? design.document.targets[0]?.id ?? "";
  const id = design.id;
  const detail = useQuery({
    queryKey: keys.detail(id, design.revision, target, span),
    queryFn: () =>
      unwrap(
        client.GET("/api/designs/{id}/detail", {
          params: { path: { id }, query: { target, most: 600, ...(span ?? {}) } },
        }),
      ),
    placeholderData: keepPreviousData,
  });
  const held = useQuery({
    queryKey: keys.unfree(id, design.revision, target, on),
    queryFn: () =>
      unwrap(client.GET("/api/designs/{id}/unfree", { params: { path: { id }, query: { target, on } } })),
    placeholderData: keepPreviousData,
  });
  const reference = useSeries().data?.reference.find((one) => one.target === target);
  const shelves = useShelves();
  const error = detail.error ?? shelves.error ?? held.error;
  if (error) return <Notice title="This target cannot be shown" error={error} />;
  const one = consequences?.targets.find((found) => found.now.target === target);
  if (!detail.data || !one) return <Notice title="Computing the forecast…" />;
  const names = Object.fromEntries(design.document.targets.map((each) => [each.id, each.name || each.id]));
  return (
    <Stack sx={{ height: "100%", minHeight: 0 }}>
      <Box component="section" aria-label={`${one.now.name} in full`} sx={{ px: 2, pt: 0.5 }}>
        <Stack direction="row" sx={{ alignItems: "baseline", gap: 2, mb: 0.5, minWidth: 0 }}>
          <Choice
            label="Target"
            value={target}
            options={names}
            disabled={false}
            onChange={(next) =>
              navigate({
                pathname: `/forecast/target/${encodeURIComponent(next)}`,
                search: search.toString(),
              })
            }
          />
          <Headline one={one} on={on} />
        </Stack>
        {!alone && (
          <Charts
            target={target}
            fullOn={one.now.full_on}
            series={detail.data.series}
            reference={reference}
            held={held.data}
            by={by}
            onBy={setBy}
            strip={strip}
            onStrip={setStrip}
            span={span}
            onSpan={setSpan}
          />
        )}
      </Box>
      <Below
        label="What stands below"
        value={below}
        options={BELOW}
        onChange={setBelow}
        alone={alone}
        onAlone={setAlone}
      >
        {below === "why" && <Why target={target} />}
        {below === "points" && <PointList target={target} />}
        {below === "figures" && <InFigures target={target} by={by} span={span} series={detail.data.series} />}
        {below === "rules" && <Marginals target={target} />}
        {below === "longest" && <LongestKeep target={target} />}
        {below === "packing" && <OtherPacking target={target} />}
      </Below>
    </Stack>
  );
}

function InFigures({ target, by, span, series }: Pick<ChartsProps, "target" | "by" | "span" | "series">) {
  if (by === "whole") return <SeriesTable series={series} />;
  return <SplitTable target={target} by={by} span={span} />;
}

interface ChartsProps extends Omit<ChartProps, "band"> {
  target: string;
  by: By | "whole";
  onBy: (by: By | "whole") => void;
  strip: Strip;
  onStrip: (strip: Strip) => void;
  span: Span;
}

/** What is wrong with a target, its chart, whole or told apart, and its shelf beside it. */
function Charts(props: ChartsProps) {
  const { target, fullOn, series, reference, held, by, onBy, strip, onStrip, span, onSpan } = props;
  const { days, place } = useDesign();
  const band = useBands()?.bands.find((each) => each.target === target);
  const shelves = useShelves();
  return (
    <>
      <TargetFindings target={target} />
      <Stack direction="row" sx={{ gap: 1, alignItems: "center", mb: 0.5 }}>
        <Typography color="textSecondary">Told apart</Typography>
        <Choice label="Told apart by" value={by} options={BY} disabled={false} onChange={onBy} />
        {by === "whole" && (
          <>
            <Typography color="textSecondary">with</Typography>
            <Choice
              label="Shown below the bytes"
              value={strip}
              options={STRIP}
              disabled={false}
              onChange={onStrip}
            />
          </>
        )}
        {span === null ? (
          <Button onClick={() => onSpan(spanAround(days, place))}>The year around</Button>
        ) : (
          <Button onClick={() => onSpan(null)}>All years</Button>
        )}
        <ChartTools
          name={`${target}-${by === "whole" ? "through-time" : by}`}
          table={by === "whole" ? `series-of-${target}` : `split-of-${target}-by-${by}`}
          withShelf
        />
      </Stack>
      <Box sx={{ display: "grid", gridTemplateColumns: "minmax(0, 1fr) minmax(0, 1fr)", gap: 3 }}>
        <Box data-chart>
          {by === "whole" ? (
            <DetailChart
              series={series}
              reference={span === null ? reference : undefined}
              band={band}
              held={held}
              fullOn={fullOn}
              strip={strip}
              onSpan={onSpan}
            />
          ) : (
            <SplitChart target={target} by={by} span={span} band={band} />
          )}
        </Box>
        <Box data-shelf>
          <Shelf
            shelves={(shelves.data?.shelves ?? []).filter((shelf) => shelf.target === target)}
            height={232}
          />
        </Box>
      </Box>
    </>
  );
}
