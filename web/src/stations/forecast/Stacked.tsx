import { Box } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import type { SVGProps } from "react";
import { inkOf } from "./partInks";

/** A part of a whole: its name, and how much it is at each place of a chart. */
export interface Layer {
  name: string;
  values: number[];
}

/** How the parts of a chart of parts on top of each other are painted: one that is nothing throughout is left out. */
export function useLooks(
  layers: readonly (Layer | null)[],
): (name: string, at: number) => SVGProps<SVGPathElement> | null {
  const { inks } = useTheme();
  const shown = layers.filter((one) => one !== null);
  return (_, at) => {
    const layer = layers[at];
    if (!layer) return null;
    return { fill: inkOf(layer.name, shown.indexOf(layer), inks), stroke: inks.ground, strokeWidth: 0.6 };
  };
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
