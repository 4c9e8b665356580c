import { useTheme } from "@mui/material/styles";
import { memo } from "react";
import type { Spine } from "../api/types";
import type { Bundle } from "./boards";
import { type PatternNames, spineLook } from "./spineLook";

interface Props {
  bundles: Bundle[];
  tall: number;
  patterns: PatternNames;
  onRead: (spine: Spine | null) => void;
  onOpen: (bundle: Bundle) => void;
}

/** The spines of one board. A bundle is broader than a spine and has a cord around it. */
export const Board = memo(function Board({ bundles, tall, patterns, onRead, onOpen }: Props) {
  const { inks } = useTheme();
  return bundles.map((bundle, place) => {
    const [spine] = bundle.spines;
    if (!spine) return null;
    const many = bundle.spines.length > 1;
    const high = ((spine.height + 1) / 7.4) * (tall - 3);
    const wide = many ? 4.5 : 3.5;
    return (
      // biome-ignore lint/a11y/noStaticElementInteractions: by keys the shelf as a whole is walked, and Enter opens
      <g
        // biome-ignore lint/suspicious/noArrayIndexKey: spines are drawn anew for each date, and two groups may have alike ones
        key={place}
        onPointerEnter={() => onRead(spine)}
        onPointerLeave={() => onRead(null)}
        onClick={many ? () => onOpen(bundle) : undefined}
        style={many ? { cursor: "zoom-in" } : undefined}
        data-bundle={many ? bundle.spines.length : undefined}
      >
        <rect
          x={bundle.x - wide / 2}
          y={tall - 2 - high}
          width={wide}
          height={high}
          {...spineLook(spine, inks, patterns)}
        />
        {many && (
          <line
            x1={bundle.x - wide / 2}
            x2={bundle.x + wide / 2}
            y1={tall - 2 - high * 0.45}
            y2={tall - 2 - high * 0.45}
            stroke={inks.surface}
            strokeWidth={1.2}
          />
        )}
      </g>
    );
  });
});
