import { useTheme } from "@mui/material/styles";
import { useId } from "react";
import type { NightBar, NightBundle, NightPicture } from "../../api/types";
import { RowPicture, WaitHatch } from "../../shared/RowPicture";

export const ROW = 20;
export type Scale = (seconds: number) => number;

export function Ticks({ night, x, width }: { night: NightPicture; x: Scale; width: number }) {
  const { inks } = useTheme();
  return (
    <svg
      viewBox={`0 0 ${width} ${18}`}
      width={width}
      height={18}
      fontSize={12}
      aria-hidden="true"
      style={{ display: "block" }}
    >
      {night.ticks.map(({ seconds: at, text }) => (
        <text
          key={at}
          x={x(at)}
          y={13}
          fill={inks.muted}
          textAnchor={at === 0 ? "start" : at >= night.seconds ? "end" : "middle"}
        >
          {text}
        </text>
      ))}
    </svg>
  );
}

interface TrackProps {
  bundle: NightBundle;
  bars: NightBar[];
  x: Scale;
  width: number;
  label: string;
}

export function Track({ bundle, bars, x, width, label }: TrackProps) {
  const { inks } = useTheme();
  const hatch = useId();
  return (
    <RowPicture width={width} height={ROW} label={label}>
      <WaitHatch id={hatch} />
      {bundle.windows.map(({ begin: opens, end: closes }) => (
        <rect
          key={opens}
          x={x(opens)}
          width={x(closes) - x(opens)}
          y={0}
          height={ROW}
          fill={inks.ramp[1]}
          opacity={0.25}
        />
      ))}
      {bars.map((bar) => {
        const start = bar.started ?? Number.POSITIVE_INFINITY;
        const end = bar.ended ?? Number.POSITIVE_INFINITY;
        const key = `${bar.workload} ${bar.machine} ${bar.asked}`;
        return (
          <g key={key}>
            <rect
              x={x(bar.asked)}
              width={Math.max(0, x(start) - x(bar.asked))}
              y={7}
              height={6}
              fill={`url(#${hatch})`}
            />
            {bar.started !== null && (
              <rect
                x={x(start)}
                width={Math.max(1.5, x(end) - x(start))}
                y={4}
                height={12}
                fill={bar.late.length > 0 ? inks.brick : inks.ramp[4]}
                opacity={bars.length > 12 ? 0.5 : 0.85}
              />
            )}
            {bar.late.length > 0 && <LateMark x={x(end)} colour={inks.brick} />}
          </g>
        );
      })}
    </RowPicture>
  );
}

/** What is late ends in a point, whatever its colour. */
function LateMark({ x, colour }: { x: number; colour: string }) {
  return <path d={`M ${x - 7} 1 L ${x + 1} ${ROW / 2} L ${x - 7} ${ROW - 1} Z`} fill={colour} />;
}

export function UseArea({
  stretches,
  x,
  width,
  label,
}: {
  stretches: NightPicture["resources"][number]["stretches"];
  x: Scale;
  width: number;
  label: string;
}) {
  const { inks } = useTheme();
  return (
    <RowPicture width={width} height={ROW} label={label}>
      <line x1={0} x2={width} y1={ROW - 1} y2={ROW - 1} stroke={inks.hairline} />
      {stretches.map(({ begin, end, used, capacity }) => {
        const share = capacity > 0 ? Math.min(1, used / capacity) : 0;
        return (
          <rect
            key={begin}
            x={x(begin)}
            width={Math.max(0.5, x(end) - x(begin))}
            y={ROW - 1 - share * (ROW - 3)}
            height={share * (ROW - 3)}
            fill={share > 0.999 ? inks.brass : inks.ramp[3]}
          />
        );
      })}
    </RowPicture>
  );
}
