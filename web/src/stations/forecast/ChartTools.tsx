import { Button, Menu, MenuItem } from "@mui/material";
import { useRef, useState } from "react";
import { useDesign } from "../../design/context";
import { savePicture } from "./savePicture";

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
  const here = useRef<HTMLButtonElement>(null);
  const [open, setOpen] = useState(false);
  const save = (what: "chart" | "shelf", as: "svg" | "png") => () => {
    setOpen(false);
    const drawing = here.current?.closest("section")?.querySelector<SVGSVGElement>(`[data-${what}] svg`);
    void savePicture(drawing ?? null, what === "chart" ? name : `${name}-shelf-${on}`, as);
  };
  return (
    <>
      <Button ref={here} onClick={() => setOpen(true)} aria-haspopup="menu" sx={{ ml: "auto" }}>
        Save this picture
      </Button>
      <Menu open={open} anchorEl={() => here.current} onClose={() => setOpen(false)}>
        <MenuItem onClick={save("chart", "svg")}>the chart as SVG</MenuItem>
        <MenuItem onClick={save("chart", "png")}>the chart as PNG</MenuItem>
        <MenuItem
          component="a"
          href={`/api/designs/${design.id}/tables/${encodeURIComponent(table)}.csv?on=${on}`}
          download
          onClick={() => setOpen(false)}
        >
          its values as CSV
        </MenuItem>
        {withShelf && <MenuItem onClick={save("shelf", "svg")}>the shelf as SVG</MenuItem>}
        {withShelf && <MenuItem onClick={save("shelf", "png")}>the shelf as PNG</MenuItem>}
      </Menu>
    </>
  );
}
