import { Box, Button, Typography } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import { useId, useState } from "react";
import type { CopyEnd, NightBar, NightBundle, NightPicture } from "../../api/types";
import { RowPicture, WaitHatch } from "../../shared/RowPicture";
import { useWidth } from "../../shared/useWidth";
import { barName, barWords, bundleWords, changeWords } from "./nightWords";

const ROW = 20;
const NAMES = 230;
const MOST_OPENED = 80;

type Scale = (seconds: number) => number;

/** The transfers of a night on a clock, bundled by copy; a bundle opens. Below, the use of what they share, on the same clock. */
export function NightClock({ night, before }: { night: NightPicture; before: readonly CopyEnd[] }) {
  const [ref, whole] = useWidth<HTMLDivElement>(900);
  const [opened, setOpened] = useState<string | null>(null);
  const width = Math.max(200, whole - NAMES);
  const x: Scale = (seconds) => (Math.min(Math.max(seconds, 0), night.seconds) / night.seconds) * width;
  return (
    <div ref={ref}>
      <Line name="">
        <Ticks night={night} x={x} width={width} />
      </Line>
      {night.bundles.map((bundle) => {
        const key = `${bundle.route} ${bundle.copy}`;
        const isOpen = opened === key;
        const was = before.find((one) => one.route === bundle.route && one.copy === bundle.copy);
        const changed = before.length > 0 ? changeWords(bundle, was) : "";
        return (
          <Box key={key}>
            <Line
              name={
                <Button
                  data-said
                  size="small"
                  aria-expanded={isOpen}
                  onClick={() => setOpened(isOpen ? null : key)}
                  sx={{ justifyContent: "flex-start", p: 0, textAlign: "left" }}
                >
                  {bundle.name}
                </Button>
              }
            >
              <Track bundle={bundle} bars={bundle.bars} x={x} width={width} label={bundleWords(bundle)} />
              {changed && (
                <Typography variant="body2" data-testid="night-change">
                  {changed}
                </Typography>
              )}
            </Line>
            {isOpen &&
              bundle.bars.slice(0, MOST_OPENED).map((bar) => (
                <Line key={`${bar.workload} ${bar.machine} ${bar.asked}`} name={barName(bar)}>
                  <Track bundle={bundle} bars={[bar]} x={x} width={width} label={barWords(bar)} />
                  <Typography variant="body2" color={bar.late.length > 0 ? "error" : "textSecondary"}>
                    {barWords(bar)}
                  </Typography>
                </Line>
              ))}
          </Box>
        );
      })}
      {night.resources.map((one) => (
        <Line key={one.resource} name={one.name}>
          <UseArea stretches={one.stretches} x={x} width={width} label={`Use of ${one.name}`} />
        </Line>
      ))}
    </div>
  );
}

function Line({ name, children }: { name: React.ReactNode; children: React.ReactNode }) {
  return (
    <Box
      sx={{ display: "grid", gridTemplateColumns: `${NAMES}px 1fr`, alignItems: "center", minHeight: ROW }}
    >
      <Typography component="div" variant="body2" noWrap sx={{ pr: 1 }}>
        {name}
      </Typography>
      <Box>{children}</Box>
    </Box>
  );
}

function Ticks({ night, x, width }: { night: NightPicture; x: Scale; width: number }) {
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

function Track({ bundle, bars, x, width, label }: TrackProps) {
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

function UseArea({
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
