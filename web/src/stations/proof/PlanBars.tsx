import { Box, Stack, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import { useId } from "react";
import type { PlanPicture } from "../../api/types";
import { useDesign } from "../../design/context";
import { DownloadView } from "../../shared/DownloadView";
import { bytesText, lengthText } from "../../shared/format";
import { RowPicture, WaitHatch } from "../../shared/RowPicture";
import { saveTable } from "../../shared/saveTable";
import { useWidth } from "../../shared/useWidth";

const NAMES = 210;
const WORDS = 420;
const ROW = 22;

/** How a plan brings all back: a bar for each workload, waits hatched, from when it is called for to "all is back". */
export function PlanBars({ plan }: { plan: PlanPicture }) {
  const { design } = useDesign();
  const [ref, whole] = useWidth<HTMLDivElement>(900);
  const width = Math.max(160, whole - NAMES - WORDS);
  const end = Math.max(plan.over_at ?? 0, ...plan.bars.map((one) => one.back_at ?? 0), 1);
  const x = (seconds: number) => (Math.min(seconds, end) / end) * width;
  return (
    <Box ref={ref} sx={{ mt: 1.5 }} component="section" data-view aria-label={`The plan ${plan.name}`}>
      <Stack direction="row" sx={{ justifyContent: "space-between" }}>
        <Typography variant="h3" sx={{ fontSize: 19 }}>
          {plan.name}
        </Typography>
        <DownloadView
          label="Download this plan"
          file={`plan-${plan.plan}`}
          onSaveValues={() => saveBars(plan)}
        />
      </Stack>
      <Typography role="status" sx={{ mb: 0.5 }}>
        {plan.back_at === null
          ? "Not all of it comes back."
          : `${plan.bars.some((one) => one.reason) ? "What can be restored" : "All"} is back at ${plan.back_text}, after ${lengthText(plan.back_at)}; the last check is over at ${plan.over_text}.`}
        {plan.held_most && ` What holds it most: ${plan.held_most}.`}{" "}
        {plan.cost > 0 && `It costs ${design.document.currency} ${plan.cost.toFixed(2)}.`}
      </Typography>
      {plan.bars.map((bar) => {
        const words = bar.reason
          ? bar.reason
          : `${bar.moment} from ${bar.source}, ${bytesText(bar.read_bytes)}, back ${bar.back_text}${bar.in_use_text ? `, in use ${bar.in_use_text}` : ""}${bar.held_most ? `; ${bar.held_most}` : ""}`;
        return (
          <Box
            key={bar.workload}
            sx={{
              display: "grid",
              gridTemplateColumns: `${NAMES}px ${width}px 1fr`,
              columnGap: 1,
              alignItems: "center",
            }}
          >
            <Typography variant="body2" noWrap>
              {bar.group === 0 ? "first: " : `${bar.group}. `}
              {bar.name}
            </Typography>
            <Bar bar={bar} x={x} width={width} label={`${bar.name}: ${words}`} />
            <Typography variant="body2" color={bar.reason ? "error" : "textSecondary"}>
              {words}
            </Typography>
          </Box>
        );
      })}
    </Box>
  );
}

function Bar({
  bar,
  x,
  width,
  label,
}: {
  bar: PlanPicture["bars"][number];
  x: (seconds: number) => number;
  width: number;
  label: string;
}) {
  const { inks } = useTheme();
  const hatch = useId();
  const begins = bar.first_byte ?? 0;
  return (
    <RowPicture width={width} height={ROW} label={label}>
      <WaitHatch id={hatch} />
      <line x1={0} x2={width} y1={ROW - 1} y2={ROW - 1} stroke={inks.hairline} />
      {bar.back_at !== null && (
        <>
          <rect x={0} width={x(begins)} y={8} height={6} fill={`url(#${hatch})`} />
          <rect
            x={x(begins)}
            width={Math.max(2, x(bar.back_at) - x(begins))}
            y={4}
            height={14}
            fill={inks.ramp[4]}
          />
          {bar.in_use_at !== null && (
            <path
              d={`M ${x(bar.in_use_at) - 5} ${ROW - 2} L ${x(bar.in_use_at)} 2 L ${x(bar.in_use_at) + 5} ${ROW - 2} Z`}
              fill={inks.moss}
            />
          )}
        </>
      )}
    </RowPicture>
  );
}

/** How each workload comes back, as it was answered. */
function saveBars({ plan, bars }: PlanPicture) {
  saveTable(
    `plan-${plan}`,
    [
      "group",
      "workload",
      "target",
      "moment",
      "kind",
      "lost_seconds",
      "read_bytes",
      "first_byte",
      "back_at",
      "in_use_at",
      "held_most",
      "cost",
      "reason",
    ],
    bars.map((one) => [
      one.group,
      one.name,
      one.source,
      one.moment,
      one.kind,
      one.lost_seconds,
      one.read_bytes,
      one.first_byte_text,
      one.back_text,
      one.in_use_text,
      one.held_most,
      one.cost,
      one.reason,
    ]),
  );
}
