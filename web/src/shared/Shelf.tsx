import { Box, Button, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import { type KeyboardEvent, memo, useId, useMemo, useState } from "react";
import type { ShelfOfCopy, Spine } from "../api/types";
import { useDesign } from "../design/context";
import { AgeTicks } from "./AgeTicks";
import { type Ages, WHOLE_AXIS, xOf } from "./ages";
import { Board } from "./Board";
import { type Bundle, bundled, byCopy, chainOf } from "./boards";
import { countText } from "./format";
import { SpinePatterns } from "./spineLook";
import { useWidth } from "./useWidth";

const FOOT = 18;

interface Props {
  shelves: ShelfOfCopy[];
  height: number;
}

/** Points as spines by their age: today at the right, years to the left. A board for each copy that lies on the target.
 * Where spines stand too close they are bundled; a bundle opens when it is clicked, or by Enter. */
export const Shelf = memo(function Shelf({ shelves, height }: Props) {
  const { inks } = useTheme();
  const { design } = useDesign();
  const [ref, width] = useWidth<HTMLDivElement>(560);
  const [read, setRead] = useState<Spine | null>(null);
  const [ages, setAges] = useState<Ages>(WHOLE_AXIS);
  const said = useId();
  const hatch = useId();
  const band = useId();
  const boards = useMemo(() => byCopy(shelves), [shelves]);
  const bundles = useMemo(
    () => boards.map((board) => bundled(board.spines, ages, width)),
    [boards, ages, width],
  );
  const tall = (height - FOOT) / Math.max(1, boards.length);
  const inOrder = useMemo(
    () =>
      boards.flatMap((board) =>
        board.spines
          .filter((spine) => spine.age_days >= ages.youngest && spine.age_days <= ages.oldest)
          .sort((one, other) => one.age_days - other.age_days),
      ),
    [boards, ages],
  );
  const chain = useMemo(() => (read === null ? [] : chainOf(read, shelves)), [read, shelves]);
  const open = (bundle: Bundle) => {
    const [first, last] = [bundle.spines[0], bundle.spines.at(-1)];
    if (!first || !last || bundle.spines.length < 2) return;
    const [young, old] = [first.age_days, last.age_days].sort((one, other) => one - other) as [
      number,
      number,
    ];
    setAges({ youngest: Math.max(0.02, young * 0.97), oldest: Math.max(old * 1.03, young * 1.07) });
  };
  const openRead = () => {
    const holding = read && bundles.flat().find((bundle) => bundle.spines.includes(read));
    if (holding) open(holding);
  };
  const walk = (event: KeyboardEvent) => {
    if (event.key === "Escape") setAges(WHOLE_AXIS);
    if (event.key === "Enter") openRead();
    const step = { ArrowLeft: 1, ArrowRight: -1, PageUp: 10, PageDown: -10 }[event.key];
    if (!step || inOrder.length === 0) return;
    event.preventDefault();
    const at = read ? inOrder.indexOf(read) : -1;
    setRead(inOrder[Math.max(0, Math.min(inOrder.length - 1, at + step))] ?? null);
  };
  const routes = new Map(design.document.routes.map((route) => [route.id, route.name || route.id]));
  return (
    <Box ref={ref} sx={{ position: "relative" }}>
      <svg
        viewBox={`0 0 ${width} ${height}`}
        width={width}
        height={height}
        role="img"
        aria-label={shelfWords(shelves)}
        aria-describedby={said}
        // biome-ignore lint/a11y/noNoninteractiveTabindex: spines are walked by the arrow keys
        tabIndex={0}
        onKeyDown={walk}
        onBlur={() => setRead(null)}
        fontSize={12}
      >
        <SpinePatterns names={{ hatch, band }} inks={inks} />
        <AgeTicks ages={ages} width={width} height={height - FOOT} />
        {boards.map((board, at) => (
          <g key={board.name} transform={`translate(0 ${at * tall})`}>
            <Board
              bundles={bundles[at] ?? []}
              tall={tall}
              patterns={{ hatch, band }}
              onRead={setRead}
              onOpen={open}
            />
            {read && board.spines.includes(read) && (
              <Chain chain={chain} read={read} x={(age) => xOf(age, ages, width)} tall={tall} />
            )}
            <line x1={0} x2={width} y1={tall - 1} y2={tall - 1} stroke={inks.brass} strokeWidth={2} />
            <text x={4} y={13} fill={inks.muted}>
              {routes.get(board.route) ?? board.route}: {board.copy}
            </text>
          </g>
        ))}
      </svg>
      {ages !== WHOLE_AXIS && (
        <Button onClick={() => setAges(WHOLE_AXIS)} sx={{ position: "absolute", top: 0, right: 0 }}>
          The whole shelf
        </Button>
      )}
      <Typography
        id={said}
        aria-live="polite"
        variant="body2"
        color="textSecondary"
        sx={{ minHeight: "2.9em", lineHeight: 1.4 }}
      >
        {read ? spineWords(read, chain) : shelfWords(shelves)}
      </Typography>
    </Box>
  );
});

interface ChainProps {
  chain: Spine[];
  read: Spine;
  x: (age: number) => number;
  tall: number;
}

/** What the spine that is read rests on, link by link. */
function Chain({ chain, read, x, tall }: ChainProps) {
  const { inks } = useTheme();
  return (
    <g>
      <path
        data-testid="chain"
        d={chain.map((one, n) => `${n ? "L" : "M"}${x(one.age_days)} ${tall - 4}`).join("")}
        fill="none"
        stroke={inks.ink}
        strokeWidth={1.2}
      />
      {chain.slice(1).map((one) => (
        <circle key={one.taken} cx={x(one.age_days)} cy={tall - 4} r={2.4} fill={inks.ink} />
      ))}
      <path d={`M${x(read.age_days) - 4} ${tall} l4 -6 l4 6 z`} fill={inks.ink} />
    </g>
  );
}

function spineWords(spine: Spine, chain: Spine[]): string {
  const root = chain.at(-1);
  const rests =
    chain.length > 1 && root
      ? ` It rests on ${countText(chain.length - 1)} older, back to ${root.taken.replace(/^\w+day /, "")}.`
      : "";
  return `${spine.taken}, ${spine.kind}. ${spine.why}${rests}`;
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
