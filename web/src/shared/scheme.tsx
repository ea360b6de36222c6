import { ThemeProvider } from "@mui/material/styles";
import { createContext, use, useEffect, useMemo, useState, type ReactNode } from "react";
import { themeFor } from "./theme";

interface Scheme {
  dark: boolean;
  toggle: () => void;
}

const SchemeContext = createContext<Scheme>({ dark: false, toggle: () => undefined });

export const useScheme = () => use(SchemeContext);

/** Light or dark: as the system has it until somebody chooses. */
export function SchemeProvider({ children }: { children: ReactNode }) {
  const [dark, setDark] = useState(() => {
    const chosen = localStorage.getItem("scheme");
    return chosen ? chosen === "dark" : matchMedia("(prefers-color-scheme: dark)").matches;
  });
  useEffect(() => {
    document.documentElement.classList.toggle("dark", dark);
  }, [dark]);
  const scheme = useMemo(
    () => ({
      dark,
      toggle: () => {
        localStorage.setItem("scheme", dark ? "light" : "dark");
        document.documentElement.classList.toggle("dark", !dark);
        setDark(!dark);
      },
    }),
    [dark],
  );
  const theme = useMemo(() => themeFor(dark), [dark]);
  return (
    <SchemeContext value={scheme}>
      <ThemeProvider theme={theme}>{children}</ThemeProvider>
    </SchemeContext>
  );
}
