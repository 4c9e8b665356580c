import { Box, Stack, Typography } from "@mui/material";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, unwrap } from "../../api/client";
import type { By, ConsequenceOut } from "../../api/types";
import { useDesign, useShownFigures } from "../../design/context";
import { useShelves } from "../../design/useShelves";
import { Choice } from "../../shared/Choice";
import { bytesText, countText, writtenDate } from "../../shared/format";
import { Notice } from "../../shared/Notice";
import { Shelf } from "../../shared/Shelf";
import { PointList } from "./PointList";
import { SeriesChart } from "./SeriesChart";
import { SplitChart } from "./SplitChart";
import { TargetRow } from "./TargetRow";

const BY: Record<By | "whole", string> = {
  whole: "not at all",
  route: "by route",
  copy: "by copy",
  workload: "by workload",
  kind: "by kind",
  rung: "by the rule that claims longest",
  state: "by why they are there",
};
const BELOW = { targets: "all targets", points: "the list of its points" };

/** What locks hold on a target from the as-of date on, if every rule were cut then. */
function useHeld(target: string) {
  const { design, on } = useDesign();
  const id = design.id;
  return useQuery({
    queryKey: ["unfree", id, design.revision, target, on],
    queryFn: () =>
      unwrap(client.GET("/api/designs/{id}/unfree", { params: { path: { id }, query: { target, on } } })),
    enabled: target !== "",
  }).data;
}

/** What every target will hold: one target large, all of them small below, each with its shelf at the as-of date. */
export function ForecastStation() {
  const { design, on } = useDesign();
  const { consequences } = useShownFigures();
  const id = design.id;
  const [chosen, setChosen] = useState(design.document.targets[0]?.id ?? "");
  const [by, setBy] = useState<By | "whole">("whole");
  const [below, setBelow] = useState<keyof typeof BELOW>("targets");
  const series = useQuery({
    queryKey: ["series", id, design.revision],
    queryFn: () =>
      unwrap(client.GET("/api/designs/{id}/series", { params: { path: { id }, query: { most: 600 } } })),
    placeholderData: keepPreviousData,
  });
  const shelves = useShelves();
  const held = useHeld(chosen);
  const error = series.error ?? shelves.error;
  if (error) return <Notice title="The forecast cannot be shown" error={error} />;
  if (!series.data || !consequences) return <Notice title="Computing the forecast…" />;
  if (consequences.targets.length === 0)
    return <Notice title="No target yet">A design needs a target to forecast.</Notice>;
  const of = (target: string) => ({
    series: series.data.targets.find((one) => one.target === target),
    reference: series.data.reference.find((one) => one.target === target),
    shelves: (shelves.data?.shelves ?? []).filter((shelf) => shelf.target === target),
  });
  const large = consequences.targets.find((one) => one.now.target === chosen) ?? consequences.targets[0];
  if (!large) return null;
  const shown = of(large.now.target);
  return (
    <Stack sx={{ height: "100%", minHeight: 0 }}>
      <Box component="section" aria-label={`${large.now.name} in full`} sx={{ p: 2, pb: 1 }}>
        <Headline one={large} on={on} />
        <Stack direction="row" sx={{ gap: 1, alignItems: "center", mb: 0.5 }}>
          <Typography color="textSecondary">Told apart</Typography>
          <Choice label="Told apart by" value={by} options={BY} disabled={false} onChange={setBy} />
          <Typography color="textSecondary" sx={{ ml: 2 }}>
            below
          </Typography>
          <Choice
            label="What stands below"
            value={below}
            options={BELOW}
            disabled={false}
            onChange={setBelow}
          />
        </Stack>
        <Box sx={{ display: "grid", gridTemplateColumns: "minmax(0, 1fr) minmax(0, 1fr)", gap: 3 }}>
          {by !== "whole" && <SplitChart target={large.now.target} by={by} />}
          {by === "whole" && shown.series && (
            <SeriesChart
              series={shown.series}
              reference={shown.reference}
              fullOn={large.now.full_on}
              held={held}
            />
          )}
          <Shelf shelves={shown.shelves} height={264} named />
        </Box>
      </Box>
      {below === "points" && <PointList target={large.now.target} />}
      {below === "targets" && (
        <Box
          role="list"
          aria-label="All targets"
          sx={{ flex: 1, minHeight: 0, overflow: "auto", borderTop: 1, borderColor: "divider" }}
        >
          {consequences.targets.map((one) => (
            <TargetRow
              key={one.now.target}
              one={one}
              {...of(one.now.target)}
              chosen={one === large}
              onChoose={() => setChosen(one.now.target)}
            />
          ))}
        </Box>
      )}
    </Stack>
  );
}

function Headline({ one: { now }, on }: { one: ConsequenceOut; on: string }) {
  const full = now.full_on
    ? `full on ${writtenDate(now.full_on)}`
    : now.capacity_bytes === null
      ? ""
      : "never full in this design";
  return (
    <Stack direction="row" sx={{ alignItems: "baseline", gap: 2, mb: 0.5 }}>
      <Typography variant="h2">{now.name}</Typography>
      <Typography>
        {countText(now.points)} points and {bytesText(now.stored_bytes)} at the end of {writtenDate(on)}; peak{" "}
        {bytesText(now.peak_bytes)} on {writtenDate(now.peak_on)}
      </Typography>
      <Typography color={now.full_on ? "error" : "success"}>{full}</Typography>
    </Stack>
  );
}
