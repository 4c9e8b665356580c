import { Box } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import { line } from "d3-shape";
import type { Chart } from "../../api/types";
import { inkOf } from "./partInks";
import { AmountMarks, type Area, DayMarks, type Scale, Shapes } from "./Shapes";

/** A part of a whole: its name, and how much it is at each place of a chart. */
export interface Layer {
  name: string;
  values: number[];
}

/** What a tenth and nine tenths of the draws stay below, on a day. */
export interface BandDay {
  day: number;
  low: number;
  high: number;
}

interface StackProps {
  chart: Chart;
  /** The parts in the order of the chart's shapes, null for one that is nothing throughout. */
  layers: readonly (Layer | null)[];
  box: Area;
  x: Scale;
  y: Scale;
  band: readonly BandDay[];
  /** The day at which the values are read. */
  day: number;
  inWords?: (value: number) => string;
}

/** Parts on top of each other; dots between which their sum lies in eight of ten draws. */
export function Stack({ chart, layers, box, x, y, band, day, inWords }: StackProps) {
  const { inks } = useTheme();
  const shown = layers.filter((one) => one !== null);
  const look = (_: string, at: number) => {
    const layer = layers[at];
    return layer
      ? { fill: inkOf(layer.name, shown.indexOf(layer), inks), stroke: inks.ground, strokeWidth: 0.6 }
      : null;
  };
  const edge = (of: "low" | "high") =>
    line<BandDay>(
      (one) => x(one.day),
      (one) => y(one[of]),
    )(band as BandDay[]) ?? "";
  return (
    <>
      <AmountMarks chart={chart} y={y} box={box} {...(inWords && { inWords })} />
      <Shapes chart={chart} box={box} y={y} look={look} />
      {(["low", "high"] as const).map((of) => (
        <path
          key={of}
          data-band={of}
          d={edge(of)}
          fill="none"
          stroke={inks.ink}
          strokeWidth={0.9}
          strokeDasharray="1 3"
        />
      ))}
      <DayMarks marks={chart.days} x={x} top={box.bottom} />
      <line x1={x(day)} x2={x(day)} y1={box.top} y2={box.bottom} stroke={inks.ink} />
    </>
  );
}

/** The parts in words, each with its ink. */
export function PartList({ layers, inWords }: { layers: Layer[]; inWords: (part: number) => string }) {
  const { inks } = useTheme();
  return (
    <Box
      component="ul"
      aria-live="polite"
      sx={{ m: 0, p: 0, listStyle: "none", display: "flex", flexWrap: "wrap", columnGap: 2, fontSize: 13 }}
    >
      {layers.map(({ name }, part) => (
        <li key={name} data-part={name}>
          <Box
            component="span"
            sx={{
              display: "inline-block",
              width: 10,
              height: 10,
              mr: 0.75,
              bgcolor: inkOf(name, part, inks),
            }}
          />
          {name}: {inWords(part)}
        </li>
      ))}
    </Box>
  );
}
