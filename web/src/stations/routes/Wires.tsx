import { useTheme } from "@mui/material/styles";
import type { RoutePart, Target } from "../../api/types";
import { partsOf, UNIT_NAMES } from "../../shared/durations";
import { useWidth } from "../../shared/useWidth";

export const LABEL_WIDTH = 194;
/** Of a target, at least. */
export const COLUMN_WIDTH = 75;
export const ROW_HEIGHT = 84;
const TOP = 7;
const BOTTOM = ROW_HEIGHT - 8;

/** The wires of a route: above the cells what follows what, below them what steps down to where, and when. */
export function Wires({ route, targets }: { route: RoutePart; targets: readonly Target[] }) {
  const { inks } = useTheme();
  const [ref, width] = useWidth<HTMLDivElement>(860);
  const column = (width - LABEL_WIDTH) / Math.max(1, targets.length);
  const x = (target: string) => LABEL_WIDTH + column * (targets.findIndex((one) => one.id === target) + 0.5);
  const source = (id: string | null | undefined) => route.copies.find((copy) => copy.id === id);
  return (
    <div ref={ref} style={{ position: "absolute", inset: 0, pointerEvents: "none" }}>
      <svg
        viewBox={`0 0 ${width} ${ROW_HEIGHT}`}
        width={width}
        height={ROW_HEIGHT}
        fontSize={11.5}
        aria-hidden="true"
      >
        {route.copies.map((copy) => {
          const from = source(copy.from);
          if (!from || from.target === copy.target) return null;
          const [a, b] = [x(from.target), x(copy.target)];
          const side = Math.sign(b - a) * 6;
          return (
            <g key={copy.id} stroke={inks.muted} fill="none">
              <path d={`M${a + side} 13 V${TOP} H${b - side} V12`} />
              <path d={`M${b - side - 3} 9 l3 4 l3 -4`} />
            </g>
          );
        })}
        {route.copies.flatMap((copy) =>
          (copy.step_downs ?? []).map((step, at) => {
            const before = at === 0 ? copy.target : (copy.step_downs ?? [])[at - 1]?.target;
            const [a, b] = [x(before ?? copy.target), x(step.target)];
            const side = Math.sign(b - a) * 6;
            return (
              <g key={`${copy.id}/${step.target}`} stroke={inks.plum} fill="none">
                <path
                  d={`M${a + side} ${BOTTOM - 7} V${BOTTOM} H${b - side} V${BOTTOM - 6}`}
                  strokeDasharray="4 2.5"
                />
                <path d={`M${b - side - 3} ${BOTTOM - 3} l3 -4 l3 4`} />
                <text
                  x={(a + b) / 2}
                  y={BOTTOM + 3.5}
                  textAnchor="middle"
                  fill={inks.plum}
                  stroke={inks.surface}
                  strokeWidth={4}
                  paintOrder="stroke"
                >
                  {ageText(step.after)}
                </text>
              </g>
            );
          }),
        )}
      </svg>
    </div>
  );
}

/** How a duration is written, not what it is; one that mixes units as it stands. */
function ageText(duration: string): string {
  const parts = partsOf(duration);
  return parts === null
    ? duration
    : `${parts.count} ${parts.count === 1 ? parts.unit : UNIT_NAMES[parts.unit]}`;
}
