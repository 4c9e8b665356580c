import { useTheme } from "@mui/material/styles";
import { scaleLog } from "d3-scale";
import { type KeyboardEvent, type PointerEvent, useRef } from "react";
import { VOCABULARY } from "../../api/generated/vocabulary";
import type { Bar, Ladder, LadderReading } from "../../api/types";
import { useWidth } from "../../shared/useWidth";
import { countIn, keepOf, wayOf, withKeep } from "./keeps";

interface Props {
  ladder: Ladder;
  reading: LadderReading;
  canEdit: boolean;
  onTry: (ladder: Ladder) => void;
  onKeep: (ladder: Ladder, what: string) => void;
}

const START_WIDTH = 850;
const LEFT = 12;
const RIGHT = 118;
const ROW = 30;

/** The rules of a ladder as bars that reach back in age: today at the right, years to the left. Their ends are dragged. */
export function AgeAxis(props: Props) {
  const { inks } = useTheme();
  const [ref, width] = useWidth<HTMLDivElement>(START_WIDTH);
  const now = width - RIGHT;
  const { bars } = props.reading;
  const reaches = bars.map((bar) => reachOf(bar, props.reading) ?? 0);
  const oldest = Math.max(400, ...reaches) * 1.6;
  const x = scaleLog().domain([0.5, oldest]).range([now, LEFT]).clamp(true);
  const height = bars.length * ROW + 30;
  return (
    <div ref={ref}>
      <svg viewBox={`0 0 ${width} ${height}`} width={width} height={height} role="presentation" fontSize={13}>
        {VOCABULARY.ladder.ticks
          .filter(({ days }) => days < oldest)
          .map(({ days, name }) => (
            <g key={name} transform={`translate(${x(days)} 0)`}>
              <line y1={0} y2={height - 20} stroke={inks.hairline} />
              <text y={height - 5} textAnchor="middle" fill={inks.muted}>
                {name}
              </text>
            </g>
          ))}
        <line x1={now} x2={now} y1={0} y2={height - 20} stroke={inks.ink} />
        <text x={now} y={height - 5} textAnchor="middle" fill={inks.ink}>
          now
        </text>
        {bars.map((bar, at) => (
          <RuleBar key={`${bar.part}-${bar.place}`} {...props} bar={bar} top={at * ROW} x={x} now={now} />
        ))}
      </svg>
    </div>
  );
}

function RuleBar({
  ladder,
  reading,
  canEdit,
  onTry,
  onKeep,
  bar,
  top,
  x,
  now,
}: Props & { bar: Bar; top: number; x: Scale; now: number }) {
  const { inks } = useTheme();
  const drag = useRef<Ladder | null>(null);
  // What is dragged is shown as it is tried; how it was when the drag began is what it goes back to.
  const start = useRef(ladder);
  const reach = reachOf(bar, reading);
  const step = bar.step_days ?? (reach && bar.count ? reach / bar.count : 1);
  const end = x(reach ?? x.domain()[1] ?? 1);
  const level = bar.height;
  const thick = 8 + level * 2;
  const movable = canEdit && bar.count !== null && wayOf(bar) !== "other";
  const moved = (count: number): Ladder =>
    withKeep(ladder, bar, keepOf(wayOf(bar), Math.max(1, Math.round(count)), bar.part));
  const follow = (event: PointerEvent<SVGElement>) => {
    const box = event.currentTarget.ownerSVGElement?.getBoundingClientRect();
    if (!drag.current || !box) return;
    const days = x.invert(event.clientX - box.left);
    const next = moved(days / step);
    if (countIn(next, bar) !== countIn(drag.current, bar)) onTry(next);
    drag.current = next;
  };
  const drop = () => {
    if (drag.current && countIn(drag.current, bar) !== countIn(start.current, bar))
      onKeep(drag.current, `${bar.label} dragged to ${countIn(drag.current, bar)}`);
    drag.current = null;
  };
  // A drag that the browser or Escape takes back saves nothing.
  const letGo = () => {
    if (drag.current) onTry(start.current);
    drag.current = null;
  };
  const press = (event: KeyboardEvent) => {
    if (event.key === "Escape" && drag.current) return letGo();
    const by = { ArrowLeft: 1, ArrowUp: 1, ArrowRight: -1, ArrowDown: -1, PageUp: 10, PageDown: -10 }[
      event.key
    ];
    if (!by || !movable) return;
    event.preventDefault();
    const next = moved(countIn(ladder, bar) + by);
    onKeep(next, `${bar.label} set to ${countIn(next, bar)}`);
  };
  return (
    <g transform={`translate(0 ${top + ROW / 2})`}>
      <rect
        x={end}
        width={Math.max(2, now - end)}
        y={-thick / 2}
        height={thick}
        fill={inks.ramp[level]}
        stroke={inks.plum}
        strokeDasharray={reach === null ? "3 3" : undefined}
      />
      <text x={now + 10} dominantBaseline="central" fill={inks.ink}>
        {bar.label}
      </text>
      {movable && (
        <rect
          x={end - 5}
          width={10}
          y={-13}
          height={26}
          rx={2}
          fill={inks.surface}
          stroke={inks.plum}
          strokeWidth={2}
          style={{ cursor: "ew-resize", touchAction: "none" }}
          tabIndex={0}
          role="slider"
          aria-label={`Reach of ${bar.label}`}
          aria-valuenow={countIn(ladder, bar)}
          aria-valuemin={1}
          aria-valuemax={10000}
          aria-valuetext={`${countIn(ladder, bar)} ${bar.unit ?? ""}`}
          onPointerDown={(event) => {
            event.currentTarget.setPointerCapture(event.pointerId);
            drag.current = ladder;
            start.current = ladder;
          }}
          onPointerMove={follow}
          onPointerUp={drop}
          onPointerCancel={letGo}
          onKeyDown={press}
        />
      )}
    </g>
  );
}

type Scale = ReturnType<typeof scaleLog<number, number>>;

/** How far back a rule reaches in days: as the server says or, for a count of points, as old as its oldest now is. */
function reachOf(bar: Bar, reading: LadderReading): number | null {
  if (bar.keep === "forever") return null;
  if (bar.reach_days !== null) return bar.reach_days;
  const measured = reading.uses.map((use) => use.oldest_days[bar.label]).find((days) => days !== undefined);
  return measured ?? bar.count;
}
