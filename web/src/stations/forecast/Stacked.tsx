import { Box } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import type { ScaleLinear } from "d3-scale";
import { area, stack } from "d3-shape";
import { useMemo } from "react";
import { inkOf } from "./partInks";

/** A part of a whole: its name, and how much it is at each place of a chart. */
export interface Layer {
  name: string;
  values: number[];
}

interface Props {
  layers: Layer[];
  places: number[];
  x: ScaleLinear<number, number>;
  y: ScaleLinear<number, number>;
}

/** Parts drawn on top of each other; they add up to the whole. */
export function StackedAreas({ layers, places, x, y }: Props) {
  const { inks } = useTheme();
  const drawn = useMemo(
    () =>
      stack<number, number>()
        .keys(layers.map((_, at) => at))
        .value((place, key) => layers[key]?.values[place] ?? 0)(places.map((_, at) => at)),
    [layers, places],
  );
  return drawn.map((layer, part) => (
    <path
      key={layers[part]?.name}
      d={
        area<[number, number]>(
          (_, at) => x(places[at] ?? 0),
          (one) => y(one[0]),
          (one) => y(one[1]),
        )(layer as unknown as [number, number][]) ?? ""
      }
      fill={inkOf(layers[part]?.name ?? "", part, inks)}
      stroke={inks.surface}
      strokeWidth={0.6}
    />
  ));
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
