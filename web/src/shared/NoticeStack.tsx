import { SnackbarProvider } from "notistack";
import { createRoot } from "react-dom/client";
import type { Tone } from "./tone";

/** The stack of notices, beside the tool and not in it: it is loaded later. */
const stack = new Promise<SnackbarProvider>((there) => {
  const foot = document.body.appendChild(document.createElement("div"));
  createRoot(foot).render(
    <SnackbarProvider
      ref={(made) => {
        if (made) there(made);
      }}
      maxSnack={3}
      autoHideDuration={3500}
      anchorOrigin={{ horizontal: "left", vertical: "bottom" }}
    />,
  );
});

export async function show(text: string, tone?: Tone) {
  (await stack).enqueueSnackbar(text, tone && { variant: tone });
}
