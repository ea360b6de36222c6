import type { QueryClient } from "@tanstack/react-query";
import type { ComponentType } from "react";
import type { LoaderFunctionArgs, NonIndexRouteObject, RouteObject } from "react-router";
import { blockOf, documentOf, overviewOf } from "../api/queries";
import { BlockPlace } from "../block/BlockPlace";
import { Editor } from "../shared/editor/Editor";
import { App } from "./App";
import { WordsPlace } from "../words/WordsPlace";
import { Failed, NoBench, nowhere } from "./Failed";
import { FirstBlock } from "./First";

/** Where everything is: for each path its place, how that is loaded when one comes to it,
 *  and what is asked for before it is drawn. Only what is drawn first waits for that, so that
 *  it is drawn at once and not piece by piece. */
export function routes(client: QueryClient, drawn: () => boolean): RouteObject[] {
  const ahead: Ahead = (ask) => ({
    loader: async ({ params, request }: LoaderFunctionArgs) => {
      const asked = ask(params, new URL(request.url).searchParams);
      // A place tells itself what is wrong with what it needs.
      const settled = Promise.allSettled(asked);
      if (!drawn()) await settled;
      return null;
    },
    shouldRevalidate: () => false, // once one has come, what is chosen there asks for itself
  });
  return [
    {
      path: "/",
      lazy: async () => ({ Component: (await import("../sites/SitesPlace")).SitesPlace }),
      ErrorBoundary: NoBench,
    },
    {
      path: "/:site",
      Component: App,
      ErrorBoundary: NoBench,
      ...ahead(({ site = "" }) => [client.query(overviewOf(site))]),
      // A place that cannot be shown leaves the rest of the bench as it is.
      children: [{ ErrorBoundary: Failed, children: places(client, ahead) }],
    },
  ];
}

/** What stands in the middle of the bench. */
function places(client: QueryClient, ahead: Ahead): RouteObject[] {
  return [
    { index: true, Component: FirstBlock },
    { path: "blocks", Component: FirstBlock },
    {
      path: "blocks/:block",
      Component: BlockPlace,
      ...ahead(({ site = "", block = "" }) => [
        client.query(blockOf(site, block)),
        client.query(documentOf(site, `blocks/${block}.html`)),
        Editor.ahead(),
      ]),
    },
    {
      path: "pages",
      lazy: async () => ({ Component: (await import("../page/PagePlace")).PagePlace }),
      ...ahead(({ site = "" }, query) => {
        const doc = query.get("doc");
        return [Editor.ahead(), ...(doc ? [client.query(documentOf(site, doc))] : [])];
      }),
    },
    ...named("reference", async () => (await import("../reference/ReferencePlace")).ReferencePlace),
    {
      path: "scripts/:name",
      lazy: async () => ({ Component: (await import("../script/ScriptPlace")).ScriptPlace }),
      ...ahead(() => [Editor.ahead()]),
    },
    ...named("rules", async () => (await import("../rules/RulesPlace")).RulesPlace),
    ...named(
      "layouts",
      async () => (await import("../layouts/LayoutsPlace")).LayoutsPlace,
      ahead(() => [Editor.ahead()]),
    ),
    ...named(
      "menus",
      async () => (await import("../menus/MenusPlace")).MenusPlace,
      ahead(() => [Editor.ahead()]),
    ),
    {
      path: "roll-out",
      lazy: async () => ({ Component: (await import("../rollout/RollOutPlace")).RollOutPlace }),
    },
    {
      path: "files",
      lazy: async () => ({ Component: (await import("../files/FilesPlace")).FilesPlace }),
    },
    { path: "words", Component: WordsPlace }, // at once: what is typed behind its key goes into it
    {
      path: "repeats",
      lazy: async () => ({ Component: (await import("../repeats/RepeatsPlace")).RepeatsPlace }),
    },
    {
      path: "parts",
      lazy: async () => ({ Component: (await import("../parts/PartsPlace")).PartsPlace }),
    },
    {
      path: "site",
      lazy: async () => ({ Component: (await import("../site/SitePlace")).SitePlace }),
      ...ahead(({ site = "" }) => [client.query(documentOf(site, "site.yaml")), Editor.ahead()]),
    },
    {
      path: "review",
      lazy: async () => ({ Component: (await import("../review/ReviewPlace")).ReviewPlace }),
    },
    {
      path: "checks",
      lazy: async () => ({ Component: (await import("../checks/ChecksPlace")).ChecksPlace }),
    },
    { path: "*", loader: nowhere },
  ];
}

/** A place with and without one of its things in the address. */
function named(
  place: string,
  load: () => Promise<ComponentType>,
  ahead?: Pick<NonIndexRouteObject, "loader" | "shouldRevalidate">,
): RouteObject[] {
  const lazy = async () => ({ Component: await load() });
  return [
    { path: place, lazy, ...ahead },
    { path: `${place}/:name`, lazy, ...ahead },
  ];
}

type Ask = (params: LoaderFunctionArgs["params"], query: URLSearchParams) => Promise<unknown>[];

type Ahead = (ask: Ask) => Pick<NonIndexRouteObject, "loader" | "shouldRevalidate">;
