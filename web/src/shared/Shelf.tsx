import { Box, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import { type KeyboardEvent, memo, useId, useMemo, useState } from "react";
import type { ShelfOfCopy, Spine } from "../api/types";
import { useDesign } from "../design/context";
import type { Inks } from "../theme/palette";
import { countText } from "./format";
import { useWidth } from "./useWidth";

interface Props {
  shelves: ShelfOfCopy[];
  height: number;
  /** Whether boards carry the names of their copies, the axis its ages, and spines say why they are there. */
  named?: boolean;
}

const TICKS: [number, string][] = [
  [1, "a day"],
  [7, "a week"],
  [30.44, "a month"],
  [365.24, "a year"],
  [3652, "10 years"],
];
const OLDEST = 3652 * 3;
const YOUNGEST = 0.25;

/** Points as spines by their age: today at the right, years to the left. A board for each copy that lies on the target. */
export const Shelf = memo(function Shelf({ shelves, height, named = false }: Props) {
  const { inks } = useTheme();
  const { design } = useDesign();
  const [ref, width] = useWidth<HTMLDivElement>(560);
  const [read, setRead] = useState<Spine | null>(null);
  const said = useId();
  const hatch = useId();
  const band = useId();
  const foot = named ? 18 : 2;
  const boards = byCopy(shelves);
  const tall = (height - foot) / Math.max(1, boards.length);
  const inOrder = useMemo(
    () =>
      byCopy(shelves).flatMap((board) =>
        [...board.spines].sort((one, other) => one.age_days - other.age_days),
      ),
    [shelves],
  );
  const walk = (event: KeyboardEvent) => {
    const step = { ArrowLeft: 1, ArrowRight: -1, PageUp: 10, PageDown: -10 }[event.key];
    if (!step || inOrder.length === 0) return;
    event.preventDefault();
    const at = read ? inOrder.indexOf(read) : -1;
    setRead(inOrder[Math.max(0, Math.min(inOrder.length - 1, at + step))] ?? null);
  };
  const routes = new Map(design.document.routes.map((route) => [route.id, route.name || route.id]));
  return (
    <Box ref={ref}>
      <svg
        width={width}
        height={height}
        role="img"
        aria-label={shelfWords(shelves)}
        aria-describedby={named ? said : undefined}
        tabIndex={named ? 0 : undefined}
        onKeyDown={named ? walk : undefined}
        onBlur={() => setRead(null)}
        fontSize={12}
      >
        <defs>
          <pattern
            id={hatch}
            width="4"
            height="4"
            patternUnits="userSpaceOnUse"
            patternTransform="rotate(45)"
          >
            <rect width="4" height="4" fill={inks.surface} />
            <rect width="1.6" height="4" fill={inks.slate} />
          </pattern>
          <pattern id={band} width="4" height="5" patternUnits="userSpaceOnUse">
            <rect width="4" height="5" fill={inks.surface} />
            <rect width="4" height="3" fill={inks.brass} />
          </pattern>
        </defs>
        {named &&
          TICKS.map(([days, name]) => (
            <g key={name}>
              <line
                x1={xOf(days, width)}
                x2={xOf(days, width)}
                y1={0}
                y2={height - foot}
                stroke={inks.hairline}
              />
              <text x={xOf(days, width)} y={height - 4} textAnchor="middle" fill={inks.muted}>
                {name}
              </text>
            </g>
          ))}
        {boards.map((board, at) => (
          <g key={board.name} transform={`translate(0 ${at * tall})`}>
            {board.spines.map((spine, place) => (
              <rect
                // biome-ignore lint/suspicious/noArrayIndexKey: spines are drawn anew for each date
                key={place}
                {...spineBox(spine, tall, width)}
                {...spineLook(spine, inks, { hatch, band })}
                onPointerEnter={named ? () => setRead(spine) : undefined}
                onPointerLeave={named ? () => setRead(null) : undefined}
              />
            ))}
            {board.spines.includes(read as Spine) && read && (
              <path d={`M${xOf(read.age_days, width) - 4} ${tall} l4 -5 l4 5 z`} fill={inks.ink} />
            )}
            <line
              x1={0}
              x2={width}
              y1={tall - 1}
              y2={tall - 1}
              stroke={inks.brass}
              strokeWidth={named ? 2 : 1}
            />
            {named && (
              <text x={4} y={13} fill={inks.muted}>
                {routes.get(board.route) ?? board.route}: {board.copy}
              </text>
            )}
          </g>
        ))}
      </svg>
      {named && (
        <Typography
          id={said}
          aria-live="polite"
          variant="body2"
          color="textSecondary"
          noWrap
          sx={{ minHeight: "1.5em" }}
        >
          {read ? `${read.taken}, ${read.kind}. ${read.why}` : shelfWords(shelves)}
        </Typography>
      )}
    </Box>
  );
});

interface Board {
  name: string;
  route: string;
  copy: string;
  spines: Spine[];
}

function byCopy(shelves: ShelfOfCopy[]): Board[] {
  const boards = new Map<string, Board>();
  for (const shelf of shelves) {
    const name = `${shelf.route}/${shelf.copy}`;
    const board = boards.get(name) ?? { name, route: shelf.route, copy: shelf.copy, spines: [] };
    board.spines = [...board.spines, ...shelf.spines];
    boards.set(name, board);
  }
  return [...boards.values()];
}

function xOf(ageDays: number, width: number): number {
  const share = Math.log(Math.max(YOUNGEST, ageDays) / YOUNGEST) / Math.log(OLDEST / YOUNGEST);
  return width - 8 - share * (width - 16);
}

function spineBox(spine: Spine, tall: number, width: number) {
  const height = ((spine.height + 1) / 7.4) * (tall - 3);
  return { x: xOf(spine.age_days, width) - 1.75, y: tall - 2 - height, width: 3.5, height };
}

function spineLook(spine: Spine, inks: Inks, { hatch, band }: { hatch: string; band: string }) {
  if (spine.state === "locked") return { fill: `url(#${band})`, stroke: inks.brass, strokeWidth: 0.7 };
  if (spine.state === "needed") return { fill: `url(#${hatch})`, stroke: inks.slate, strokeWidth: 0.7 };
  if (spine.state === "due") return { fill: "none", stroke: inks.muted, strokeWidth: 1 };
  const fill = inks.ramp[spine.height] ?? inks.plum;
  return { fill, stroke: inks.surface, strokeWidth: 0.5 };
}

/** How many points are there in each state; logs are no points and are counted apart. */
function shelfWords(shelves: ShelfOfCopy[]): string {
  const count: Record<string, number> = {};
  for (const spine of shelves.flatMap((shelf) => shelf.spines)) {
    const name = spine.kind === "log" ? "logs" : spine.state;
    count[name] = (count[name] ?? 0) + spine.count;
  }
  const { logs = 0, ...states } = count;
  const parts = Object.entries(states).map(([state, points]) => `${countText(points)} ${state}`);
  if (parts.length === 0) return "Nothing on the shelf on this date";
  return `On the shelf: ${parts.join(", ")}${logs > 0 ? `, and ${countText(logs)} logs` : ""}`;
}
