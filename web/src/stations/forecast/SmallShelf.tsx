import { useTheme } from "@mui/material/styles";
import { memo, useId, useMemo } from "react";
import type { SpineRow } from "../../api/types";
import { WHOLE_AXIS, xOf } from "../../shared/ages";
import { SpinePatterns, spineLook } from "../../shared/spineLook";
import { useWidth } from "../../shared/useWidth";

const WIDE = 3.5;
/** A board lower than this shows no difference between a tall spine and a low one. */
const LOWEST_BOARD = 14;

/** A shelf without words, cheap enough to be drawn anew for every date: all spines of one look are one path. */
export const SmallShelf = memo(function SmallShelf({
  rows: all,
  height,
}: {
  rows: SpineRow[];
  height: number;
}) {
  const { inks } = useTheme();
  const [ref, width] = useWidth<HTMLDivElement>(430);
  const names = { hatch: useId(), band: useId() };
  const rows = useMemo(() => (all.length * LOWEST_BOARD > height ? [together(all)] : all), [all, height]);
  const tall = Math.floor((height - 2) / Math.max(1, rows.length));
  const boards = useMemo(() => rows.map((row) => pathsOf(row, width, tall)), [rows, width, tall]);
  return (
    <div ref={ref} aria-hidden="true">
      <svg viewBox={`0 0 ${width} ${height}`} width={width} height={height} style={{ display: "block" }}>
        <title>Spines by their age</title>
        <SpinePatterns names={names} inks={inks} />
        {boards.map((paths, at) => (
          <g key={`${rows[at]?.route}/${rows[at]?.copy}`} transform={`translate(0 ${at * tall})`}>
            {paths.map((path) => (
              <path
                key={`${path.state} ${path.height}`}
                data-spines={path.count}
                d={path.d}
                {...spineLook(path, inks, names)}
              />
            ))}
            <line x1={0} x2={width} y1={tall - 0.5} y2={tall - 0.5} stroke={inks.brass} />
          </g>
        ))}
      </svg>
    </div>
  );
});

/** The spines of all copies on one board, where their own boards would be too low to be read. */
function together(rows: SpineRow[]): SpineRow {
  const [first] = rows;
  return {
    route: first?.route ?? "",
    copy: first?.copy ?? "",
    target: first?.target ?? "",
    age_days: rows.flatMap((row) => row.age_days),
    height: rows.flatMap((row) => row.height),
    state: rows.flatMap((row) => row.state),
  };
}

interface SpinesOfLook {
  state: string;
  height: number;
  count: number;
  d: string;
}

/** One path for each look, the same place drawn once. What is drawn is bounded by the width, however many spines stand. */
export function pathsOf(row: SpineRow, width: number, tall: number): SpinesOfLook[] {
  const found = new Map<string, SpinesOfLook & { places: Set<number> }>();
  row.age_days.forEach((age, at) => {
    if (age > WHOLE_AXIS.oldest) return;
    const [state, height] = [row.state[at] ?? "", row.height[at] ?? 0];
    const key = `${state} ${height}`;
    let look = found.get(key);
    if (!look) {
      look = { state, height, count: 0, d: "", places: new Set() };
      found.set(key, look);
    }
    look.count += 1;
    const x = Math.round(2 * xOf(age, WHOLE_AXIS, width)) / 2;
    if (look.places.has(x)) return;
    look.places.add(x);
    const high = ((height + 1) / 7.4) * (tall - 3);
    look.d += `M${x - WIDE / 2} ${(tall - 2 - high).toFixed(1)}h${WIDE}v${high.toFixed(1)}h${-WIDE}z`;
  });
  return [...found.values()];
}
