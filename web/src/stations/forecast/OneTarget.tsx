import { Box, Stack } from "@mui/material";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useNavigate, useParams, useSearchParams } from "react-router";
import { client, unwrap } from "../../api/client";
import { keys } from "../../api/keys";
import { useDesign, useShownFigures } from "../../design/context";
import { useShelves } from "../../design/useShelves";
import { Below } from "../../shared/Below";
import { Choice } from "../../shared/Choice";
import { Notice } from "../../shared/Notice";
import { useAddressed, useAlone } from "../../shared/useAddressed";
import { LongestKeep } from "./LongestKeep";
import { Marginals } from "./Marginals";
import { OtherPacking } from "./OtherPacking";
import { PointList } from "./PointList";
import { SeriesTable, SplitTable } from "./SeriesTable";
import { BY, Charts, type ChartsProps, STRIP } from "./TargetCharts";
import { Headline } from "./TargetHeadline";
import { useSeries } from "./useSeries";
import { useSpan } from "./useSpan";
import { Why } from "./Why";

const BELOW = {
  why: "why there are so many",
  points: "the list of its points",
  figures: "the chart in figures",
  rules: "what each rule is worth",
  longest: "how long a rung could be kept",
  packing: "its packing the other way",
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
            charts={detail.data.charts}
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
