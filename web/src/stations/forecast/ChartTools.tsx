import { Box, MenuItem } from "@mui/material";
import { useRef } from "react";
import { useDesign } from "../../design/context";
import { DownloadMenu } from "../../shared/DownloadMenu";
import { drawingOf, savePicture } from "../../shared/savePicture";

interface Props {
  /** What the files are called. */
  name: string;
  /** The table on the server that holds the chart's values, day by day. */
  table: string;
  /** Whether a shelf stands beside the chart. */
  withShelf?: boolean;
}

/** Takes the chart beside it away: as a drawing, as a picture, or as its values; and the shelf beside that. */
export function ChartTools({ name, table, withShelf = false }: Props) {
  const { design, on } = useDesign();
  const here = useRef<HTMLElement>(null);
  const save = (what: "chart" | "shelf", as: "svg" | "png") => () => {
    const svg = here.current?.closest("section")?.querySelector<SVGSVGElement>(`[data-${what}] svg`);
    void savePicture(drawingOf(svg), what === "chart" ? name : `${name}-shelf-${on}`, as);
  };
  const shelf: [string, () => void][] = [
    ["the shelf as SVG", save("shelf", "svg")],
    ["the shelf as PNG", save("shelf", "png")],
  ];
  return (
    <Box component="span" ref={here} sx={{ ml: "auto" }}>
      <DownloadMenu
        label="Download this picture"
        acts={[
          ["the chart as SVG", save("chart", "svg")],
          ["the chart as PNG", save("chart", "png")],
          ...(withShelf ? shelf : []),
        ]}
      >
        <MenuItem
          component="a"
          href={`/api/designs/${design.id}/tables/${encodeURIComponent(table)}.csv?on=${on}`}
          download
        >
          its values as CSV
        </MenuItem>
      </DownloadMenu>
    </Box>
  );
}
