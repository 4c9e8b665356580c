import { Box } from "@mui/material";
import { useTheme } from "@mui/material/styles";
import type { ReactNode } from "react";

/** The look of the cells, set once for all of them: thousands are drawn while scrolling. */
export function GridLook({ children }: { children: ReactNode }) {
  const { inks } = useTheme();
  return (
    <Box
      sx={{
        flex: 1,
        minHeight: 0,
        display: "flex",
        flexDirection: "column",
        "& .row": { position: "absolute", top: 0, left: 0, right: 0, display: "flex", contain: "strict" },
        "& .row.chosen": { backgroundColor: `color-mix(in srgb, ${inks.plum} 8%, transparent)` },
        "& .check": { display: "grid", placeItems: "center", flexShrink: 0 },
        "& .check input": { accentColor: inks.plum, width: "15px", height: "15px", margin: 0 },
        "& .cell": {
          padding: "0 6px",
          lineHeight: "27px",
          height: "28px",
          overflow: "hidden",
          whiteSpace: "nowrap",
          textOverflow: "ellipsis",
          borderBottom: `1px solid ${inks.hairline}`,
          boxSizing: "border-box",
          cursor: "default",
          minWidth: 0,
          fontSize: "14px",
        },
        "& .cell.number": { textAlign: "right" },
        "& .cell.block": { backgroundColor: `color-mix(in srgb, ${inks.plum} 12%, transparent)` },
        "& .cell:focus-visible": { outline: "none" },
        "& .cell.active": { boxShadow: `inset 0 0 0 2px ${inks.plum}` },
        "& .cell.waiting": { fontStyle: "italic" },
        "& .cell.refused": {
          color: inks.brick,
          textDecoration: `underline wavy ${inks.brick}`,
          textUnderlineOffset: "3px",
        },
        "& .cell.untaken": { color: inks.brick },
        "& .cell-editor": {
          width: "100%",
          height: "27px",
          padding: "0 6px",
          border: 0,
          outline: 0,
          font: "inherit",
          color: inks.ink,
          backgroundColor: inks.surface,
        },
      }}
    >
      {children}
    </Box>
  );
}
