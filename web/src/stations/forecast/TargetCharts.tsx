import { Box, Button, Stack, Typography } from "@mui/material";
import type { By } from "../../api/types";
import { useDesign } from "../../design/context";
import { TargetFindings } from "../../design/TargetFindings";
import { useBands } from "../../design/useJob";
import { useShelves } from "../../design/useShelves";
import { Choice } from "../../shared/Choice";
import { Shelf } from "../../shared/Shelf";
import { ChartTools } from "./ChartTools";
import { DetailChart } from "./DetailChart";
import type { Props as ChartProps, Strip } from "./detailLayout";
import { SplitChart } from "./SplitChart";
import { type Span, spanAround } from "./useSpan";

export const BY: Record<By | "whole", string> = {
  whole: "not at all",
  route: "by route",
  copy: "by copy",
  workload: "by workload",
  kind: "by kind",
  rung: "by the rule that claims longest",
  state: "by why they are there",
};

export const STRIP: Record<Strip, string> = {
  points: "points",
  moved: "moved a day",
  logical: "what they stand for",
};

export interface ChartsProps extends Omit<ChartProps, "band"> {
  target: string;
  by: By | "whole";
  onBy: (by: By | "whole") => void;
  strip: Strip;
  onStrip: (strip: Strip) => void;
  span: Span;
}

/** What is wrong with a target, its chart, whole or told apart, and its shelf beside it. */
export function Charts(props: ChartsProps) {
  const { target, fullOn, series, charts, reference, held, by, onBy, strip, onStrip, span, onSpan } = props;
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
              charts={charts}
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
