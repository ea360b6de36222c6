import { createTheme } from "@mui/material/styles";

const shared = {
  typography: {
    fontFamily: '"Instrument Sans Variable", sans-serif',
    fontSize: 13,
    button: { textTransform: "none" as const, fontWeight: 600 },
  },
  shape: { borderRadius: 3 },
  transitions: { create: () => "none" },
};

/** The look of MUI's components; colours are those of tokens.css. */
export function themeFor(dark: boolean) {
  const ink = dark ? "#f1eadd" : "#24201b";
  return createTheme({
    ...shared,
    palette: {
      mode: dark ? "dark" : "light",
      primary: { main: dark ? "#d9764c" : "#b2512b", contrastText: dark ? "#1d1a16" : "#fffdf8" },
      secondary: { main: ink },
      error: { main: dark ? "#f0708a" : "#a3142e" },
      background: { default: dark ? "#1d1a16" : "#f6f1e7", paper: dark ? "#26221d" : "#fffdf8" },
      text: { primary: ink, secondary: dark ? "#b8ad9c" : "#625a4f" },
      divider: dark ? "#4a4237" : "#dcd2c2",
    },
    components: {
      MuiButtonBase: { defaultProps: { disableRipple: true } },
      MuiButton: {
        defaultProps: { disableElevation: true, size: "small" },
        styleOverrides: { root: { padding: "4px 12px", lineHeight: 1.5, whiteSpace: "nowrap" } },
      },
      MuiTextField: { defaultProps: { size: "small", fullWidth: true } },
      MuiPaper: { styleOverrides: { root: { backgroundImage: "none" } } },
      MuiTooltip: { defaultProps: { arrow: true } },
    },
  });
}
