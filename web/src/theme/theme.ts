import "@fontsource-variable/fraunces/index.css";
import "@fontsource-variable/source-sans-3/index.css";
import { createTheme, type Theme } from "@mui/material/styles";
import { type Inks, night, paper } from "./palette";
import { PRINT } from "./print";

declare module "@mui/material/styles" {
  interface Theme {
    inks: Inks;
  }
  interface ThemeOptions {
    inks?: Inks;
  }
}

/** Where there is little room, as on a telephone or at four times the size, everything stands under each other. */
export const NARROW = "@media (max-width: 760px), (max-height: 380px)";

export const SERIF = '"Fraunces Variable", Georgia, serif';
const SANS = '"Source Sans 3 Variable", "Helvetica Neue", Arial, sans-serif';

/** The look of the pages on MUI: hairlines for shadows, square-ish corners, tabular figures. */
export function shelfTheme(mode: "light" | "dark"): Theme {
  const inks = mode === "light" ? paper : night;
  return createTheme({
    inks,
    palette: {
      mode,
      primary: { main: inks.plum, contrastText: inks.onPlum },
      error: { main: inks.brick },
      success: { main: inks.moss },
      warning: { main: inks.brass },
      background: { default: inks.ground, paper: inks.surface },
      text: { primary: inks.ink, secondary: inks.muted },
      divider: inks.hairline,
    },
    shape: { borderRadius: 4 },
    shadows: Array(25).fill("none") as Theme["shadows"],
    typography: {
      fontFamily: SANS,
      fontSize: 14,
      h1: { fontFamily: SERIF, fontSize: 24, fontWeight: 560 },
      h2: { fontFamily: SERIF, fontSize: 19, fontWeight: 560 },
      h3: { fontFamily: SERIF, fontSize: 16, fontWeight: 560 },
      button: { textTransform: "none", fontWeight: 560 },
    },
    components: {
      MuiCssBaseline: {
        styleOverrides: {
          body: { fontVariantNumeric: "tabular-nums lining-nums" },
          "@media (prefers-reduced-motion: reduce)": {
            "*, *::before, *::after": {
              animationDuration: "0.01ms !important",
              transitionDuration: "0.01ms !important",
              scrollBehavior: "auto !important",
            },
          },
          ...PRINT,
          "*:focus-visible": { outline: `2px solid ${inks.plum}`, outlineOffset: 1 },
        },
      },
      MuiButtonBase: { defaultProps: { disableRipple: true } },
      MuiButton: { defaultProps: { disableElevation: true, size: "small" } },
      MuiPaper: { styleOverrides: { root: { backgroundImage: "none" } } },
      MuiTooltip: {
        defaultProps: { enterDelay: 400 },
        styleOverrides: { tooltip: { backgroundColor: inks.ink, color: inks.ground, fontSize: 13 } },
      },
      MuiTextField: { defaultProps: { size: "small" } },
      MuiDialog: { styleOverrides: { paper: { border: `1px solid ${inks.hairline}` } } },
      MuiMenu: {
        // What is read aloud stands in a landmark, menus too.
        defaultProps: { slotProps: { paper: { component: "section", "aria-label": "Choices" } as never } },
        styleOverrides: { paper: { border: `1px solid ${inks.hairline}` } },
      },
    },
  });
}
