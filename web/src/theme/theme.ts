import { createTheme } from "@mui/material/styles";
import { bone, denim, ink, inkSoft, marigold, oxblood, paper, rule, rust, sage, sans, slab } from "./tokens";

const heading = (size: string) => ({
  fontFamily: slab,
  fontWeight: 650,
  fontSize: size,
  lineHeight: 1.2,
  letterSpacing: "-0.01em",
});

export const theme = createTheme({
  palette: {
    primary: { main: ink, contrastText: bone },
    secondary: { main: denim },
    success: { main: sage },
    warning: { main: marigold },
    error: { main: oxblood },
    info: { main: rust },
    background: { default: bone, paper },
    text: { primary: ink, secondary: inkSoft },
    divider: rule,
  },
  shape: { borderRadius: 2 },
  typography: {
    fontFamily: sans,
    fontSize: 15,
    h1: heading("1.9rem"),
    h2: heading("1.3rem"),
    h3: heading("1.06rem"),
    button: { textTransform: "none", fontWeight: 650, fontSize: "1rem" },
  },
  components: {
    MuiCssBaseline: {
      styleOverrides: {
        body: { fontVariantNumeric: "tabular-nums" },
        "*:focus-visible": { outline: `3px solid ${marigold}`, outlineOffset: "2px" },
        // Whoever asked the device for less motion sees what changed at once.
        "@media (prefers-reduced-motion: reduce)": {
          "*, *::before, *::after": { transition: "none !important" },
        },
        // On paper: the page alone, without what is pressed or what is said to whoever sits at the screen.
        "@media print": {
          "body, #root, main": { background: "#fff !important" },
          "nav, .no-print, .MuiButton-root": { display: "none !important" },
          "#root > div": { display: "block !important" },
          main: { padding: "0 !important" },
        },
      },
    },
    MuiButtonBase: { defaultProps: { disableRipple: true } },
    MuiButton: {
      defaultProps: { disableElevation: true },
      styleOverrides: {
        root: { minHeight: 44, paddingInline: 18 },
        outlined: { borderColor: ink, borderWidth: 1.5 },
      },
    },
    MuiPaper: { defaultProps: { elevation: 0 }, styleOverrides: { root: { backgroundImage: "none" } } },
    MuiDialog: { styleOverrides: { paper: { border: `2px solid ${ink}` } } },
    MuiTextField: { defaultProps: { size: "small", fullWidth: true } },
    MuiChip: { styleOverrides: { root: { borderRadius: 2, fontWeight: 600 } } },
    MuiLink: { defaultProps: { color: "inherit" } },
  },
});
