import { Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import { scaleLinear } from "d3-scale";
import type { Fit } from "../../api/types";
import { bytesText } from "../../shared/format";

const WIDTH = 780;
const UPPER = 150;
const LOWER = 80;
const LEFT = 70;

/** What was stored against what the fit says, and below how far each lies from it. */
export function FitPicture({ fit }: { fit: Fit }) {
  const { inks } = useTheme();
  const points = fit.points;
  const largest = Math.max(...points.flatMap((one) => [one.stored_bytes, one.fitted_bytes]));
  const worst = Math.max(1, ...points.map((one) => Math.abs(one.residual_percent)));
  const x = scaleLinear()
    .domain([-0.5, points.length - 0.5])
    .range([LEFT, WIDTH - 10]);
  const y = scaleLinear()
    .domain([0, largest * 1.08])
    .range([UPPER, 8]);
  const r = scaleLinear()
    .domain([-worst * 1.1, worst * 1.1])
    .range([UPPER + 22 + LOWER, UPPER + 22]);
  const wide = Math.max(3, Math.min(16, (WIDTH - LEFT) / points.length - 3));
  return (
    <>
      <svg
        viewBox={`0 0 ${WIDTH} ${UPPER + LOWER + 40}`}
        width="100%"
        role="img"
        aria-label={`Stored and fitted bytes of ${points.length} points; the largest residual is ${worst.toPrecision(2)} percent`}
        fontSize={12}
      >
        <text x={LEFT - 6} y={14} textAnchor="end" fill={inks.muted}>
          {bytesText(largest)}
        </text>
        <line x1={LEFT} x2={WIDTH} y1={UPPER} y2={UPPER} stroke={inks.hairline} />
        <line x1={LEFT} x2={WIDTH} y1={r(0)} y2={r(0)} stroke={inks.ink} />
        <text x={LEFT - 6} y={r(0) + 4} textAnchor="end" fill={inks.muted}>
          residual
        </text>
        <text x={LEFT - 6} y={r(worst) + 6} textAnchor="end" fill={inks.muted}>
          +{worst.toPrecision(2)} %
        </text>
        {points.map((one, at) => (
          <g key={`${one.taken}/${one.kind}`}>
            <title>{`${one.taken.replace("T", " ")}, ${one.kind}: stored ${bytesText(one.stored_bytes)}, fitted ${bytesText(one.fitted_bytes)}`}</title>
            <rect
              x={x(at) - wide / 2}
              width={wide}
              y={y(one.stored_bytes)}
              height={UPPER - y(one.stored_bytes)}
              fill={inks.ramp[2]}
            />
            <line
              x1={x(at) - wide / 2 - 1}
              x2={x(at) + wide / 2 + 1}
              y1={y(one.fitted_bytes)}
              y2={y(one.fitted_bytes)}
              stroke={inks.ink}
              strokeWidth={2}
            />
            <line
              x1={x(at)}
              x2={x(at)}
              y1={r(0)}
              y2={r(one.residual_percent)}
              stroke={inks.plum}
              strokeWidth={3}
            />
          </g>
        ))}
      </svg>
      <Typography variant="body2" color="textSecondary">
        Bars: as stored. Strokes: as fitted. Below: how far each lies from the fit.
      </Typography>
    </>
  );
}
