import { Box } from "@mui/material";
import { useRef } from "react";
import { DownloadMenu } from "./DownloadMenu";
import { savePicture } from "./savePicture";
import { viewDrawing } from "./viewDrawing";

interface Props {
  label: string;
  /** What the files are called. */
  file: string;
  /** Every digit of what is shown. */
  onSaveValues: () => void;
}

/** Takes the part of the page it stands in, what is marked with `data-view`, away: as a drawing, a picture, or its values. */
export function DownloadView({ label, file, onSaveValues }: Props) {
  const here = useRef<HTMLElement>(null);
  const save = (as: "svg" | "png") => () =>
    void savePicture(viewDrawing(here.current?.closest<HTMLElement>("[data-view]") ?? null), file, as);
  return (
    <Box component="span" ref={here}>
      <DownloadMenu
        label={label}
        acts={[
          ["the picture as SVG", save("svg")],
          ["the picture as PNG", save("png")],
          ["its values as CSV", onSaveValues],
        ]}
      />
    </Box>
  );
}
