import { Button } from "@mui/material";
import { useRef } from "react";
import { useDesign } from "../../design/context";
import { savePicture } from "./savePicture";

interface Props {
  /** What the files are called. */
  name: string;
  /** The table on the server that holds the same values, day by day. */
  table: string;
}

/** Takes the chart beside it away: as a drawing, as a picture, or as its values. */
export function ChartTools({ name, table }: Props) {
  const { design, on } = useDesign();
  const here = useRef<HTMLSpanElement>(null);
  const drawing = () =>
    here.current?.closest("section")?.querySelector<SVGSVGElement>("[data-chart] svg") ?? null;
  return (
    <span ref={here} style={{ marginLeft: "auto", whiteSpace: "nowrap" }}>
      <Button onClick={() => savePicture(drawing(), name, "svg")}>SVG</Button>
      <Button onClick={() => savePicture(drawing(), name, "png")}>PNG</Button>
      <Button
        component="a"
        href={`/api/designs/${design.id}/tables/${encodeURIComponent(table)}.csv?on=${on}`}
        download
      >
        CSV
      </Button>
    </span>
  );
}
