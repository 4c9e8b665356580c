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
  return <Hatch id={id} size={5} line={1.4} ground={inks.surface} ink={inks.slate} />;
}

/** What is broken, not kept or lost for good, is hatched. */
export function BrokenHatch({ id }: { id: string }) {
  const { inks } = useTheme();
  return <Hatch id={id} size={4} line={1.2} ground={inks.brick} ink={inks.surface} />;
}

interface HatchProps {
  id: string;
  size: number;
  line: number;
  ground: string;
  ink: string;
}

function Hatch({ id, size, line, ground, ink }: HatchProps) {
  return (
    <defs>
      <pattern id={id} width={size} height={size} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <rect width={size} height={size} fill={ground} />
        <rect width={line} height={size} fill={ink} />
      </pattern>
    </defs>
  );
}
