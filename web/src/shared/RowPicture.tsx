import { useTheme } from "@mui/material/styles";
import type { ReactNode } from "react";

interface Props {
  width: number;
  height: number;
  label: string;
  children: ReactNode;
}

/** A row of a chart of rows, with its own name; on paper it shrinks with the page. */
export function RowPicture({ width, height, label, children }: Props) {
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      width={width}
      height={height}
      role="img"
      aria-label={label}
      style={{ display: "block" }}
    >
      {children}
    </svg>
  );
}

/** What waits is hatched: told from what moves by more than its colour. */
export function WaitHatch({ id }: { id: string }) {
  const { inks } = useTheme();
  return (
    <defs>
      <pattern id={id} width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <rect width="5" height="5" fill={inks.surface} />
        <rect width="1.4" height="5" fill={inks.slate} />
      </pattern>
    </defs>
  );
}
