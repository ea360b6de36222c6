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
      MuiButtonBase: {
        defaultProps: { disableRipple: true },
        // Its own rule takes the outline away, which shows where the focus is.
        styleOverrides: {
          root: { "&:focus-visible": { outline: "2px solid var(--ink)", outlineOffset: 2 } },
        },
      },
      MuiButton: {
        defaultProps: { disableElevation: true, size: "small" },
        styleOverrides: { root: { padding: "4px 12px", lineHeight: 1.5, whiteSpace: "nowrap" } },
      },
      MuiTabs: {
        styleOverrides: {
          root: { minHeight: 28 },
          list: { gap: 14 },
          indicator: { backgroundColor: "var(--ink)" },
        },
      },
      MuiTab: {
        styleOverrides: {
          root: {
            minHeight: 28,
            minWidth: 0,
            padding: "2px 0",
            fontSize: 14,
            fontWeight: 400,
            lineHeight: 1.4,
            color: "var(--soft)",
            "&.Mui-selected": { color: "var(--ink)", fontWeight: 600 },
            "&:focus-visible": { outlineOffset: -2 },
          },
        },
      },
      MuiTextField: { defaultProps: { size: "small", fullWidth: true } },
      MuiInputBase: { styleOverrides: { root: { fontSize: 13 } } },
      MuiOutlinedInput: {
        styleOverrides: { input: { padding: "7px 10px" }, multiline: { padding: 0 } },
      },
      MuiAutocomplete: {
        styleOverrides: {
          root: {
            "& .MuiOutlinedInput-root.MuiInputBase-sizeSmall": { padding: "0 36px 0 0" },
            "& .MuiOutlinedInput-root.MuiInputBase-sizeSmall .MuiAutocomplete-input": {
              padding: "7px 10px",
            },
          },
          option: { fontSize: 13 },
        },
      },
      MuiMenuItem: { styleOverrides: { root: { fontSize: 13 } } },
      MuiFormControlLabel: { styleOverrides: { label: { fontSize: 13 } } },
      MuiInputLabel: {
        styleOverrides: {
          root: { fontSize: 13 },
          sizeSmall: { transform: "translate(10px, 7px) scale(1)" },
          shrink: { transform: "translate(10px, -8px) scale(0.87)" },
        },
      },
      MuiFormHelperText: { styleOverrides: { root: { margin: "2px 2px 0", fontSize: 12 } } },
      MuiPaper: { styleOverrides: { root: { backgroundImage: "none" } } },
      MuiTooltip: { defaultProps: { arrow: true } },
    },
  });
}
