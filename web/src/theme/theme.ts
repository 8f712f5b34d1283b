import { createTheme } from "@mui/material/styles";
import { t } from "../words/words";
import { day, lamp, type Tokens } from "./tokens";

declare module "@mui/material/styles" {
  interface Palette {
    book: Tokens;
  }
  interface PaletteOptions {
    book?: Tokens;
  }
}

/** Typefaces by use; scripts that Latin faces lack follow, and load only when such a language is shown. */
export const fonts = {
  serif: '"Literata", "Noto Sans Arabic", "Noto Sans JP", Georgia, serif',
  sans: '"Source Sans 3", "Noto Sans Arabic", "Noto Sans JP", system-ui, sans-serif',
  mono: '"IBM Plex Mono", ui-monospace, monospace',
};

function palette(tokens: Tokens) {
  return {
    book: tokens,
    primary: { main: tokens.verdigris, contrastText: tokens.onVerdigris },
    error: { main: tokens.madder },
    warning: { main: tokens.ochre },
    info: { main: tokens.verdigris },
    background: { default: tokens.desk, paper: tokens.page },
    text: { primary: tokens.ink, secondary: tokens.soft },
    divider: tokens.rule,
  };
}

/** The look of the parts that are not our own, and what they say, in the language that the interface speaks now. */
export function makeTheme() {
  return createTheme({
    cssVariables: { colorSchemeSelector: "data-theme" },
    colorSchemes: { light: { palette: palette(day) }, dark: { palette: palette(lamp) } },
    spacing: 4,
    shape: { borderRadius: 6 },
    typography: {
      fontFamily: fonts.sans,
      fontSize: 14,
      h1: { fontFamily: fonts.serif, fontSize: 20, fontWeight: 400, lineHeight: 1.35 },
      h2: { fontFamily: fonts.serif, fontSize: 15, fontWeight: 600, lineHeight: 1.4 },
      button: { textTransform: "none", fontWeight: 600 },
    },
    transitions: {
      duration: { shortest: 80, shorter: 100, short: 120, standard: 140, enteringScreen: 120, leavingScreen: 100 },
    },
    components: {
      MuiAlert: { defaultProps: { closeText: t("close") } },
      MuiAutocomplete: {
        defaultProps: {
          openText: t("open"),
          closeText: t("close"),
          clearText: t("clear"),
          loadingText: t("ledger.loading"),
        },
      },
      MuiButtonBase: { defaultProps: { disableRipple: true } },
      MuiButton: { defaultProps: { disableElevation: true } },
      MuiPaper: { styleOverrides: { root: { backgroundImage: "none" } } },
      MuiListItemButton: {
        styleOverrides: {
          root: { "&.Mui-focusVisible .MuiListItemText-secondary": { color: "var(--mui-palette-book-ink)" } },
        },
      },
      MuiMenuItem: {
        // What stands below a chosen word has to be read on its ground, too.
        styleOverrides: {
          root: {
            "&.Mui-selected, &.Mui-focusVisible": {
              "& .MuiListItemText-secondary": { color: "var(--mui-palette-book-ink)" },
            },
          },
        },
      },
      MuiTooltip: { defaultProps: { enterDelay: 400 } },
      MuiCssBaseline: {
        styleOverrides: {
          "html, body, #root": { height: "100%" },
          body: { overflow: "hidden" },
          // Links of a page are the action at hand wherever nothing else is said; the browser's own blue cannot be read on the dark page.
          a: { color: "var(--mui-palette-book-verdigris)" },
          "@media (prefers-reduced-motion: reduce)": {
            "*, *::before, *::after": { animation: "none !important", transition: "none !important" },
          },
        },
      },
    },
  });
}
