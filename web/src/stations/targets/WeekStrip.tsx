import { Box, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import { type PointerEvent, useRef, useState } from "react";
import { VOCABULARY } from "../../api/generated/vocabulary";
import type { Link, LinkReading } from "../../api/types";
import { WEEKDAY_NAMES } from "../../shared/words";

type Limit = NonNullable<Link["limits"]>[number];
export type Drawn = Pick<Limit, "days" | "from" | "to">;

const DAYS = Object.keys(WEEKDAY_NAMES);
const HOURS = VOCABULARY.hours;
const ROW = 18;
const LEFT = 84;
const WIDTH = 720;
const TOP = 16;
const HOUR = (WIDTH - LEFT) / HOURS.length;

interface Cell {
  day: number;
  hour: number;
}

interface Props {
  reading: LinkReading | undefined;
  canEdit: boolean;
  onDraw: (limit: Drawn) => Promise<boolean>;
}

/** A week by days and hours, on which limits stand and are drawn: from the hour where the hand goes down to where it leaves. */
export function WeekStrip({ reading, canEdit, onDraw }: Props) {
  const { inks } = useTheme();
  const box = useRef<SVGSVGElement>(null);
  const [from, setFrom] = useState<Cell | null>(null);
  const [to, setTo] = useState<Cell | null>(null);
  const cellAt = (event: PointerEvent): Cell => {
    const frame = box.current?.getBoundingClientRect();
    const x = ((event.clientX - (frame?.left ?? 0)) / (frame?.width || 1)) * WIDTH;
    const y = ((event.clientY - (frame?.top ?? 0)) / (frame?.height || 1)) * (TOP + ROW * DAYS.length);
    const within = (value: number, most: number) => Math.min(most, Math.max(0, Math.floor(value)));
    return {
      day: within((y - TOP) / ROW, DAYS.length - 1),
      hour: within((x - LEFT) / HOUR, HOURS.length - 1),
    };
  };
  const done = () => {
    if (from && to) void onDraw(drawn(from, to));
    setFrom(null);
    setTo(null);
  };
  const pulled = from && to ? spanOf(from, to) : null;
  return (
    <Box sx={{ maxWidth: WIDTH }}>
      <svg
        ref={box}
        viewBox={`0 0 ${WIDTH} ${TOP + ROW * DAYS.length}`}
        width="100%"
        role="img"
        aria-label={`Limits through the week. ${(reading?.limits ?? []).map((one) => one.sentence).join("; ") || "There are none."}`}
        data-testid="week-strip"
        style={{ touchAction: "none", cursor: canEdit ? "crosshair" : "default", display: "block" }}
        onPointerDown={(event) => {
          if (!canEdit) return;
          event.currentTarget.setPointerCapture(event.pointerId);
          setFrom(cellAt(event));
          setTo(cellAt(event));
        }}
        onPointerMove={(event) => from && setTo(cellAt(event))}
        onPointerUp={done}
        onPointerCancel={() => {
          setFrom(null);
          setTo(null);
        }}
      >
        <defs>
          <pattern
            id="paused"
            width="6"
            height="6"
            patternUnits="userSpaceOnUse"
            patternTransform="rotate(45)"
          >
            <line x1="0" y1="0" x2="0" y2="6" stroke={inks.brick} strokeWidth="2.5" />
          </pattern>
        </defs>
        {HOURS.map(
          (hour, at) =>
            at % 3 === 0 && (
              <text key={hour} x={LEFT + at * HOUR} y={11} fontSize={11} fill={inks.muted}>
                {hour}
              </text>
            ),
        )}
        {DAYS.map((day, at) => (
          <g key={day}>
            <text x={0} y={TOP + at * ROW + 13} fontSize={12} fill={inks.ink}>
              {WEEKDAY_NAMES[day]}
            </text>
            <rect
              x={LEFT}
              y={TOP + at * ROW + 1}
              width={WIDTH - LEFT}
              height={ROW - 2}
              fill={inks.surface}
              stroke={inks.hairline}
            />
          </g>
        ))}
        {(reading?.limits ?? []).map((limit) => (
          <LimitStretches key={limit.sentence} limit={limit} />
        ))}
        {pulled && (
          <rect
            x={LEFT + pulled.hours[0] * HOUR}
            y={TOP + pulled.days[0] * ROW}
            width={(pulled.hours[1] - pulled.hours[0] + 1) * HOUR}
            height={(pulled.days[1] - pulled.days[0] + 1) * ROW}
            fill={inks.plum}
            fillOpacity={0.25}
            stroke={inks.plum}
          />
        )}
      </svg>
      {canEdit && (
        <Typography variant="body2" color="textSecondary">
          Draw over hours and days to add a limit, then say its speed.
        </Typography>
      )}
    </Box>
  );
}

/** A limit on all its days: a pause is hatched, anything else brass. */
function LimitStretches({ limit }: { limit: LinkReading["limits"][number] }) {
  const { inks } = useTheme();
  const look = limit.is_pause
    ? { fill: "url(#paused)", fillOpacity: 0.8, stroke: inks.brick }
    : { fill: inks.brass, fillOpacity: 0.4, stroke: inks.brass };
  return limit.stretches.map((one) => {
    const [x, y, width] = [
      LEFT + one.from_hour * HOUR,
      TOP + one.day * ROW,
      (one.to_hour - one.from_hour) * HOUR,
    ];
    return (
      <g key={`${one.day}-${one.from_hour}`}>
        <rect x={x} y={y + 2} width={width} height={ROW - 4} {...look} />
        {width > 60 && (
          <text x={x + 4} y={y + 13} fontSize={11} fill={inks.ink}>
            {limit.is_pause ? "nothing" : limit.speed}
          </text>
        )}
      </g>
    );
  });
}

function spanOf(one: Cell, other: Cell): { days: [number, number]; hours: [number, number] } {
  return {
    days: [Math.min(one.day, other.day), Math.max(one.day, other.day)],
    hours: [Math.min(one.hour, other.hour), Math.max(one.hour, other.hour)],
  };
}

function drawn(one: Cell, other: Cell): Drawn {
  const { days, hours } = spanOf(one, other);
  const named = DAYS.slice(days[0], days[1] + 1);
  return {
    days: named.length === DAYS.length ? null : (named as NonNullable<Limit["days"]>),
    from: HOURS[hours[0]] as string,
    to: HOURS[(hours[1] + 1) % HOURS.length] as string,
  };
}
