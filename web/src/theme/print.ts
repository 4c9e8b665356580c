/** On paper a view stands alone: what is seen, whole, with the design and the date; nothing to press, nothing that scrolls. */
export const PRINT = {
  "@page": { margin: "14mm" },
  "@media print": {
    "html, body, #root": { height: "auto !important", background: "none !important" },
    "[data-frame]": {
      display: "block !important",
      height: "auto !important",
      overflow: "visible !important",
    },
    // A cell keeps what it has no room for to itself; what scrolls shows all of it.
    "main :not([role=gridcell], [role=gridcell] *, [role=rowheader], [role=rowheader] *, [role=columnheader], .MuiTypography-noWrap, [data-unseen])":
      {
        overflow: "visible !important",
        maxHeight: "none !important",
      },
    "main > *, main > * > *": { height: "auto !important" },
    // A line that says what stands nowhere else is not cut short where nothing can be pointed at.
    "[data-whole]": { whiteSpace: "normal !important", overflow: "visible !important" },
    ".MuiSelect-icon, .MuiNativeSelect-icon": { display: "none !important" },
    "main svg:not(.MuiSvgIcon-root)": { maxWidth: "100%", height: "auto" },
    "[role=grid]": { zoom: 0.7 },
    aside: { borderTop: "1px solid", marginTop: 16 },
    "footer, header, aside": { position: "static !important" },
    "nav, footer > div:last-of-type, .MuiIconButton-root, .MuiButton-contained, .MuiButton-outlined, main .MuiButton-text:not([data-said]), footer button":
      { display: "none !important" },
    "header .MuiButton-endIcon": { display: "none" },
    "h2, h3": { breakAfter: "avoid" },
    "li, tr, svg, figure": { breakInside: "avoid" },
    "*": { printColorAdjust: "exact" },
  },
} as const;
