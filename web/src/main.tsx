import "@fontsource-variable/bricolage-grotesque";
import "@fontsource-variable/instrument-sans";
import "@fontsource-variable/source-code-pro";
import "./shared/tokens.css";
import "./shared/styles/subject.css";
import "./shared/styles/calls.css";
import "./shared/styles/wall.css";
import "./shared/styles/rules.css";
import "./shared/styles/values.css";
import { QueryClient, QueryClientProvider, useQuery } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter, Navigate, Route, Routes } from "react-router";
import { api, unwrap } from "./api/client";
import { askAhead, useOverview, useSite } from "./api/queries";
import { App } from "./App";
import { BlockPlace } from "./block/BlockPlace";
import { Editor } from "./shared/editor/Editor";
import { BuffersProvider } from "./shared/buffers";
import { later } from "./shared/later";
import { noticesAhead } from "./shared/notices";
import { SchemeProvider } from "./shared/scheme";

// What one does not come to first is loaded when one does.
const ChecksPlace = later(() => import("./checks/ChecksPlace"), "ChecksPlace");
const LayoutsPlace = later(() => import("./layouts/LayoutsPlace"), "LayoutsPlace");
const MenusPlace = later(() => import("./menus/MenusPlace"), "MenusPlace");
const PagePlace = later(() => import("./page/PagePlace"), "PagePlace");
const ReferencePlace = later(() => import("./reference/ReferencePlace"), "ReferencePlace");
const ReviewPlace = later(() => import("./review/ReviewPlace"), "ReviewPlace");
const RollOutPlace = later(() => import("./rollout/RollOutPlace"), "RollOutPlace");
const RulesPlace = later(() => import("./rules/RulesPlace"), "RulesPlace");
const ScriptPlace = later(() => import("./script/ScriptPlace"), "ScriptPlace");

const client = new QueryClient({
  defaultOptions: { queries: { staleTime: 30_000, refetchOnWindowFocus: false } },
});
const ahead: Promise<unknown>[] = [askAhead(client, location)];
if (/^\/[^/]+\/(blocks|pages|scripts|layouts|menus)/.test(location.pathname))
  ahead.push(Editor.ahead());
if (/^\/[^/]+\/pages/.test(location.pathname)) ahead.push(PagePlace.ahead());

/** Without a site in the address, the first one there is. */
function FirstSite() {
  const sites = useQuery({
    queryKey: ["sites"],
    queryFn: async () => unwrap(await api.GET("/sites")),
  });
  if (sites.error)
    return (
      <p className="empty" role="alert">
        {sites.error.message}
      </p>
    );
  if (!sites.data) return null;
  const first = sites.data[0];
  if (!first)
    return (
      <main className="empty">
        <h1>Nothing on the shelf yet</h1>
        <p>
          Take a site in: <code>brickshelf import --data DIR FOLDER</code>, then start the server
          again.
        </p>
      </main>
    );
  return <Navigate to={`/${first.name}`} replace />;
}

function FirstBlock() {
  const site = useSite();
  const { data } = useOverview();
  if (!data) return null;
  const first = data.blocks.find((b) => b.name === "footer") ?? data.blocks[0];
  if (!first)
    return (
      <p className="empty">
        This site has no blocks yet. Put one into its shelf folder as blocks/NAME.html and import
        it.
      </p>
    );
  return <Navigate to={`/${site}/blocks/${first.name}`} replace />;
}

/** Draws the tool once everything that the place needs is there: once, and not piece
 *  by piece. Until then the page says that it is opening. */
async function draw(root: HTMLElement) {
  await Promise.allSettled(ahead); // the place itself tells what is wrong
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={client}>
        <SchemeProvider>
          <BuffersProvider>
            <BrowserRouter>
              <Routes>
                <Route path="/" element={<FirstSite />} />
                <Route path="/:site" element={<App />}>
                  <Route index element={<FirstBlock />} />
                  <Route path="blocks" element={<FirstBlock />} />
                  <Route path="blocks/:block" element={<BlockPlace />} />
                  <Route path="pages" element={<PagePlace />} />
                  <Route path="reference" element={<ReferencePlace />} />
                  <Route path="reference/:name" element={<ReferencePlace />} />
                  <Route path="scripts/:name" element={<ScriptPlace />} />
                  <Route path="rules" element={<RulesPlace />} />
                  <Route path="rules/:name" element={<RulesPlace />} />
                  <Route path="layouts" element={<LayoutsPlace />} />
                  <Route path="layouts/:name" element={<LayoutsPlace />} />
                  <Route path="menus" element={<MenusPlace />} />
                  <Route path="menus/:name" element={<MenusPlace />} />
                  <Route path="roll-out" element={<RollOutPlace />} />
                  <Route path="review" element={<ReviewPlace />} />
                  <Route path="checks" element={<ChecksPlace />} />
                </Route>
              </Routes>
            </BrowserRouter>
          </BuffersProvider>
        </SchemeProvider>
      </QueryClientProvider>
    </StrictMode>,
  );
  setTimeout(() => void noticesAhead(), 1000);
}

const root = document.getElementById("root");
if (root) void draw(root);
