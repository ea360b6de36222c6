import "@fontsource-variable/bricolage-grotesque";
import "@fontsource-variable/instrument-sans";
import "@fontsource-variable/source-code-pro";
import "./shared/tokens.css";
import "./shared/styles/subject.css";
import "./shared/styles/calls.css";
import "./shared/styles/wall.css";
import "./shared/styles/rules.css";
import "./shared/styles/values.css";
import "./shared/styles/parts.css";
import "./shared/styles/sites.css";
import "./shared/styles/words.css";
import "./shared/styles/repeats.css";
import "./shared/styles/help.css";
import "./shared/styles/narrow.css";
import "./shared/styles/seeing.css";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode, startTransition } from "react";
import { createRoot } from "react-dom/client";
import { createBrowserRouter, RouterProvider } from "react-router";
import { StoppedError } from "./api/goingOn";
import { routes } from "./app/routes";
import { BuffersProvider } from "./shared/buffers";
import { noticesAhead } from "./shared/notices";
import { SchemeProvider } from "./shared/scheme";

const client = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 30_000,
      refetchOnWindowFocus: false,
      retry: (times, error) => times < 3 && !(error instanceof StoppedError),
    },
  },
});
let drawn = false;
const router = createBrowserRouter(routes(client, () => drawn));

/** Done when everything that the place of the address needs is there. */
const opened = new Promise<void>((done) => {
  if (router.state.initialized) done();
  const stop = router.subscribe((s) => {
    if (!s.initialized) return;
    stop();
    done();
  });
});

/** Draws the tool once everything that the place needs is there: once, and not piece
 *  by piece. Until then the page says that it is opening. */
async function draw(root: HTMLElement) {
  await opened;
  drawn = true;
  const tool = (
    <StrictMode>
      <QueryClientProvider client={client}>
        <SchemeProvider>
          <BuffersProvider>
            <RouterProvider router={router} />
          </BuffersProvider>
        </SchemeProvider>
      </QueryClientProvider>
    </StrictMode>
  );
  // Worked out in slices, so that keys and clicks are not kept waiting meanwhile.
  startTransition(() => createRoot(root).render(tool));
  setTimeout(() => void noticesAhead(), 1000);
}

const root = document.getElementById("root");
if (root) void draw(root);
