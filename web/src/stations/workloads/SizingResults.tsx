import { Box, Typography } from "@mui/material";
import type { Fit, Sizing, Workload } from "../../api/types";
import { FaultyRows } from "../../shared/FaultyRows";
import { bytesText, countText } from "../../shared/format";
import { FitPicture } from "./FitPicture";

export function ListingWords({ sizing }: { sizing: Sizing }) {
  return (
    <Box data-testid="listing-read">
      <Typography>
        {countText(sizing.files)} files, {bytesText(sizing.size_bytes)}
        {sizing.left_out_files > 0 &&
          `; ${countText(sizing.left_out_files)} files, ${bytesText(sizing.left_out_bytes)} left out`}
        .{" "}
        {sizing.daily_change_percent !== null &&
          `Changed a day: ${sizing.daily_change_percent.toPrecision(3)} %, counting each changed file in whole.`}
      </Typography>
      {sizing.refused && <Typography color="error">{sizing.refused}</Typography>}
      <Box component="dl" sx={{ display: "flex", gap: 3, m: 0, mt: 1 }}>
        {sizing.spans.map((span) => (
          <Box key={span.days}>
            <Typography component="dt" variant="body2" color="textSecondary">
              changed in {span.days === 1 ? "the last day" : `${span.days} days`}
            </Typography>
            <Typography component="dd" sx={{ m: 0 }}>
              {bytesText(span.changed_bytes)}, {(100 * span.share).toPrecision(3)} %
            </Typography>
          </Box>
        ))}
      </Box>
      <FaultyRows faults={sizing.faults} leaveOut onLeaveOut={() => undefined} />
    </Box>
  );
}

export function FitWords({ fit }: { fit: Fit }) {
  const share = fit.daily_change_percent?.toPrecision(3);
  return (
    <Box data-testid="fitted">
      <Typography>
        Reduction {fit.reduction?.toPrecision(3)}; {share} %{" "}
        {fit.pattern === "fresh" ? "new data" : "changed"} a day, {fit.pattern};{" "}
        {fit.annual_growth_percent === null
          ? "fulls span too little time to tell the growth"
          : `growth ${fit.annual_growth_percent?.toPrecision(3)} % a year`}
        . What was stored lies {fit.spread_percent?.toPrecision(2)} % from the fit (root mean square).
      </Typography>
      <FitPicture fit={fit} />
    </Box>
  );
}

export function patterns(text: string): string[] {
  return text
    .split(/[,\n]+/)
    .map((one) => one.trim())
    .filter(Boolean);
}

export function valuesOf(sizing: Sizing): Partial<Workload> | null {
  if (sizing.files === 0) return null;
  const change = sizing.daily_change_percent;
  return {
    size: Math.round(sizing.size_bytes),
    ...(change === null ? {} : { daily_change_percent: Math.min(100, Number(change.toPrecision(4))) }),
  };
}

export function fittedValues(fit: Fit, source: string): Partial<Workload> | null {
  if (fit.refused || fit.reduction === null || fit.daily_change_percent === null || fit.pattern === null)
    return null;
  return {
    size: /^\d+$/.test(source.trim()) ? Number(source) : source.trim(),
    reduction: Number(fit.reduction.toPrecision(4)),
    daily_change_percent: Number(fit.daily_change_percent.toPrecision(4)),
    change_pattern: fit.pattern,
    hot_percent: 100,
    change_reduction: null,
    ...(fit.annual_growth_percent === null
      ? {}
      : { annual_growth_percent: Number(fit.annual_growth_percent.toPrecision(4)) }),
  };
}
