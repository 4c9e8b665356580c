import { Box } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import { barsDrawing, type RankedRow } from "./barsDrawing";
import { DownloadMenu } from "./DownloadMenu";
import { savePicture } from "./savePicture";
import { saveTable } from "./saveTable";

interface Props {
  label: string;
  rows: RankedRow[];
}

/** Amounts as bars under each other, each with its figures in words. */
export function RankedBars({ label, rows }: Props) {
  const widest = Math.max(1e-9, ...rows.map((row) => Math.abs(row.value)));
  return (
    <Box component="table" aria-label={label} sx={{ width: "100%", borderSpacing: "0 1px" }}>
      <tbody>
        {rows.map((row) => (
          <Box component="tr" key={row.key} sx={{ fontWeight: row.isSum ? 600 : 400 }}>
            <td style={{ width: "42%" }}>
              {row.owner && <b>{row.owner}: </b>}
              {row.name}
            </td>
            <td style={{ width: "24%" }}>
              {!row.isSum && (
                <Box
                  sx={{
                    height: 11,
                    width: `${(100 * Math.abs(row.value)) / widest}%`,
                    minWidth: "1px",
                    bgcolor: row.ink,
                  }}
                />
              )}
            </td>
            {row.figures.map((figure, at) => (
              <Box
                component="td"
                // biome-ignore lint/suspicious/noArrayIndexKey: figures have places, not names
                key={at}
                data-figure-place={at}
                sx={{
                  textAlign: "right",
                  pl: 1.5,
                  borderTop: row.isSum ? 1 : 0,
                  borderColor: "divider",
                }}
              >
                {figure}
              </Box>
            ))}
          </Box>
        ))}
      </tbody>
    </Box>
  );
}

interface SaveProps extends Props {
  /** What the files are called. */
  file: string;
  /** Every digit of what is drawn, under named columns. */
  columns: readonly string[];
  cells: readonly (readonly (string | number | null | undefined)[])[];
}

/** Takes bars away: as a drawing, as a picture, or as their values. */
export function SaveBars({ label, rows, file, columns, cells }: SaveProps) {
  const { inks } = useTheme();
  const save = (as: "svg" | "png") => () => void savePicture(barsDrawing(label, rows, inks), file, as);
  return (
    <DownloadMenu
      label="Download these"
      acts={[
        ["the bars as SVG", save("svg")],
        ["the bars as PNG", save("png")],
        ["their values as CSV", () => saveTable(file, columns, cells)],
      ]}
    />
  );
}
