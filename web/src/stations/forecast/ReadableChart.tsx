import { type PointerEvent, type ReactNode, useRef } from "react";
import { useDesign } from "../../design/context";
import type { useReading } from "./useReading";

const A_STRETCH = 12;
/** So many pixels are a stretch that is meant, fewer a click. */

interface Props {
  width: number;
  height: number;
  label: string;
  reading: ReturnType<typeof useReading>;
  /** Where a stretch was drawn over with the pointer, or asked for with + around what is read. */
  onStretch?: (from: number, to: number) => void;
  children: ReactNode;
}

/** A chart through time whose values are read with the pointer or the arrow keys; a click sets the as-of date. */
export function ReadableChart({ width, height, label, reading, onStretch, children }: Props) {
  const { setPlace } = useDesign();
  const began = useRef<{ clientX: number; day: number } | null>(null);
  const end = (event: PointerEvent<SVGSVGElement>) => {
    const start = began.current;
    began.current = null;
    const day = reading.dayUnder(event);
    if (start && onStretch && Math.abs(event.clientX - start.clientX) > A_STRETCH) onStretch(start.day, day);
    else if (start) setPlace(day);
  };
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      width={width}
      height={height}
      role="img"
      aria-label={`${label}; arrow keys read the values${onStretch ? ", plus shows what is around larger" : ""}`}
      // biome-ignore lint/a11y/noNoninteractiveTabindex: the values are read with the arrow keys
      tabIndex={0}
      fontSize={12}
      style={{ touchAction: "none" }}
      onPointerDown={(event) => {
        began.current = { clientX: event.clientX, day: reading.dayUnder(event) };
      }}
      onPointerUp={end}
      onPointerMove={reading.follow}
      onPointerLeave={() => {
        began.current = null;
        reading.leave();
      }}
      onKeyDown={(event) => {
        if (event.key === "+" && onStretch)
          onStretch(reading.day - reading.reach, reading.day + reading.reach);
        else reading.press(event);
      }}
    >
      {children}
    </svg>
  );
}
