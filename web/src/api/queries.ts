import { keepPreviousData, notifyManager, queryOptions, useQuery } from "@tanstack/react-query";
import { useDeferredValue } from "react";
import { useParams } from "react-router";
import { asked, type Look } from "./look";
import { api, inWindows, readDocument, unwrap, type ScriptTrial } from "./client";

// What comes is drawn at once, not in a task of its own later.
notifyManager.setScheduler(queueMicrotask);

/** The name of the site in the address. */
export function useSite(): string {
  return useParams().site ?? "";
}

export const overviewOf = (site: string) =>
  queryOptions({
    queryKey: [site, "overview"],
    queryFn: async ({ signal }) =>
      unwrap(await api.GET("/sites/{site}", { signal, params: { path: { site } } })),
  });

export const blockOf = (site: string, block: string) =>
  queryOptions({
    queryKey: [site, "block", block],
    queryFn: async ({ signal }) =>
      unwrap(
        await api.GET("/sites/{site}/blocks/{block}", {
          signal,
          params: { path: { site, block } },
        }),
      ),
    retry: false,
  });

export const documentOf = (site: string, path: string) =>
  queryOptions({
    queryKey: [site, "document", path],
    queryFn: ({ signal }) => readDocument(site, path, signal),
    enabled: path !== "",
  });

export const useOverview = () => useQuery(overviewOf(useSite()));

/** How many errors the draft has, as far as that is known here; nothing is asked for it. */
export const useErrors = () =>
  useQuery({ ...overviewOf(useSite()), enabled: false }).data?.errors ?? 0;
export const useBlock = (block: string) => useQuery(blockOf(useSite(), block));
export const useDocument = (path: string) => useQuery(documentOf(useSite(), path));

/** Every spot where a block stands; undefined until they are known. */
export function usePlacements(block: string) {
  const site = useSite();
  return useQuery({
    queryKey: [site, "placements", block],
    queryFn: async ({ signal }) =>
      (
        await inWindows((query) =>
          api.GET("/sites/{site}/blocks/{block}/placements", {
            signal,
            params: { path: { site, block }, query },
          }),
        )
      ).flat(),
    structuralSharing: false,
  });
}

/** What becomes of a rich text that somebody enters. */
export function useRichText(text: string) {
  const site = useSite();
  return useQuery({
    queryKey: ["rich-text", text],
    queryFn: async ({ signal }) =>
      unwrap(
        await api.POST("/sites/{site}/rich-texts", {
          signal,
          params: { path: { site } },
          body: { text },
        }),
      ),
    enabled: text.includes("<"),
    staleTime: Infinity,
  });
}

/** The rows of calls, and of nothing else, that a text holds. */
export function useRows(path: string, text: string) {
  const site = useSite();
  return useQuery({
    queryKey: ["rows", path, text],
    queryFn: async ({ signal }) =>
      unwrap(
        await api.POST("/sites/{site}/rows", {
          signal,
          params: { path: { site } },
          body: { path, text },
        }),
      ),
    placeholderData: (old) => old,
    gcTime: 10_000,
    enabled: path.endsWith(".html"),
  });
}

/** The pages that can show a block or shortcode. */
export function useCallers(name: string) {
  const site = useSite();
  return useQuery({
    queryKey: [site, "callers", name],
    queryFn: async ({ signal }) =>
      unwrap(
        await api.GET("/sites/{site}/callers", {
          signal,
          params: { path: { site }, query: { name } },
        }),
      ),
    enabled: name !== "",
  });
}

/** What a script gives as its text stands. */
export function useTrial(trial: ScriptTrial) {
  const site = useSite();
  return useQuery({
    queryKey: [site, "trial", trial],
    queryFn: async ({ signal }) =>
      unwrap(
        await api.POST("/sites/{site}/script-trials", {
          signal,
          params: { path: { site } },
          body: trial,
        }),
      ),
    placeholderData: (old) => old,
    gcTime: 10_000,
  });
}

/** Everything that can be called, and how. */
export function useReference() {
  const site = useSite();
  return useQuery({
    queryKey: [site, "reference"],
    queryFn: async ({ signal }) =>
      unwrap(await api.GET("/sites/{site}/reference", { signal, params: { path: { site } } })),
  });
}

/** The fields that a block's text declares; undefined until they are known. */
export function useFields(source: string) {
  const site = useSite();
  const text = useDeferredValue(
    /^---\r?\n(?:[^]*?\n)?---[ \t]*(?:\r?\n|$)/.exec(source)?.[0] ?? source,
  ); // the front matter declares them
  const { data } = useQuery({
    queryKey: ["fields", text],
    queryFn: async ({ signal }) =>
      unwrap(
        await api.POST("/sites/{site}/fields", {
          signal,
          params: { path: { site } },
          body: { text },
        }),
      ),
    enabled: text !== "",
    placeholderData: (old) => old,
    gcTime: 10_000,
  });
  return data;
}

/** What stands in the regions of a page and why, of the draft or as an edit would
 *  have it, for an audience and on a day. */
export function useExplanation(page: string, look: Look, proposal = "") {
  const site = useSite();
  return useQuery({
    queryKey: [site, "explanation", page, look, proposal],
    queryFn: async ({ signal }) =>
      unwrap(
        await api.GET("/sites/{site}/explanations", {
          signal,
          params: {
            path: { site },
            query: { page, ...asked(look), ...(proposal && { proposal }) },
          },
        }),
      ),
    enabled: page !== "",
    placeholderData: (old) => (old?.page === page ? old : undefined),
  });
}

/** The values of a block at all its placements. */
export function useValues(block: string) {
  const site = useSite();
  return useQuery({
    queryKey: [site, "values", block],
    queryFn: async ({ signal }) => {
      const [first, ...more] = await inWindows((query) =>
        api.GET("/sites/{site}/blocks/{block}/values", {
          signal,
          params: { path: { site, block }, query },
        }),
      );
      return { ...first, rows: first.rows.concat(...more.map((m) => m.rows)) };
    },
    structuralSharing: false,
  });
}

/** Where each value of a placement comes from. */
export function usePrecedence(page: string, address: string, look: Look, proposal = "") {
  const site = useSite();
  return useQuery({
    queryKey: [site, "precedence", page, address, look, proposal],
    queryFn: async ({ signal }) =>
      unwrap(
        await api.GET("/sites/{site}/precedences", {
          signal,
          params: {
            path: { site },
            query: { page, address, ...asked(look), ...(proposal && { proposal }) },
          },
        }),
      ),
    enabled: address !== "",
    retry: false,
    placeholderData: (old) => (old?.address === address ? old : undefined),
  });
}

export function useWinners() {
  const site = useSite();
  return useQuery({
    queryKey: [site, "winners"],
    queryFn: async ({ signal }) =>
      unwrap(await api.GET("/sites/{site}/winners", { signal, params: { path: { site } } })),
  });
}

export const rulesOf = (site: string) =>
  queryOptions({
    queryKey: [site, "rules"],
    queryFn: async ({ signal }) =>
      unwrap(await api.GET("/sites/{site}/rules", { signal, params: { path: { site } } })),
  });
export const useRules = () => useQuery(rulesOf(useSite()));

/** A rule as its text says, and what it would do. */
export function useRuleReading(name: string, text: string) {
  const site = useSite();
  const { data: overview } = useOverview();
  return useQuery({
    queryKey: [site, "rule-reading", name, text, overview?.version],
    queryFn: async ({ signal }) =>
      unwrap(
        await api.POST("/sites/{site}/rule-readings", {
          signal,
          params: { path: { site } },
          body: { name, text },
        }),
      ),
    enabled: text !== "",
    placeholderData: (old) => old,
    gcTime: 10_000,
  });
}

export const layoutsOf = (site: string) =>
  queryOptions({
    queryKey: [site, "layouts"],
    queryFn: async ({ signal }) =>
      unwrap(await api.GET("/sites/{site}/layouts", { signal, params: { path: { site } } })),
  });
export const useLayouts = () => useQuery(layoutsOf(useSite()));

/** What a text says, as it is typed: nothing for an empty one, and the last until the next
 *  is there. */
function useTextReading<T>(
  kind: string,
  text: string,
  read: (site: string, signal: AbortSignal) => Promise<T>,
) {
  const site = useSite();
  return useQuery({
    queryKey: [kind, text],
    queryFn: ({ signal }) => read(site, signal),
    enabled: text !== "",
    placeholderData: keepPreviousData,
    gcTime: 10_000,
  });
}

/** What a layout's text says. */
export const useLayoutReading = (text: string) =>
  useTextReading("layout-reading", text, async (site, signal) =>
    unwrap(
      await api.POST("/sites/{site}/layout-readings", {
        signal,
        params: { path: { site } },
        body: { text },
      }),
    ),
  );

export function useMenus() {
  const site = useSite();
  return useQuery({
    queryKey: [site, "menus"],
    queryFn: async ({ signal }) =>
      unwrap(await api.GET("/sites/{site}/menus", { signal, params: { path: { site } } })),
  });
}

/** The items of a menu's text. */
export const useMenuReading = (text: string) =>
  useTextReading("menu-reading", text, async (site, signal) =>
    unwrap(
      await api.POST("/sites/{site}/menu-readings", {
        signal,
        params: { path: { site } },
        body: { text },
      }),
    ),
  );

export function useReview() {
  const site = useSite();
  return useQuery({
    queryKey: [site, "review"],
    queryFn: async ({ signal }) =>
      unwrap(await api.GET("/sites/{site}/review", { signal, params: { path: { site } } })),
  });
}

export function useFindings() {
  const site = useSite();
  return useQuery({
    queryKey: [site, "findings"],
    queryFn: async ({ signal }) =>
      unwrap(await api.GET("/sites/{site}/findings", { signal, params: { path: { site } } })),
  });
}

export function useComparison(against: string, page: string, look: Look) {
  const site = useSite();
  return useQuery({
    queryKey: [site, "comparison", against, page, look],
    queryFn: async ({ signal }) =>
      unwrap(
        await api.GET("/sites/{site}/comparisons/{against}", {
          signal,
          params: { path: { site, against }, query: { page, ...asked(look) } },
        }),
      ),
    enabled: against !== "" && page !== "",
    retry: false,
    placeholderData: (old) => old,
  });
}

/** The pages, by address, that load the style or behaviour of a block; asked while wanted. */
export function useLoading(block: string, what: "style" | "behaviour", wanted: boolean) {
  const site = useSite();
  return useQuery({
    queryKey: [site, "loading", block, what],
    queryFn: async ({ signal }) =>
      unwrap(
        await api.GET("/sites/{site}/blocks/{block}/loading", {
          signal,
          params: { path: { site, block }, query: { what } },
        }),
      ),
    enabled: wanted,
  });
}

/** The overlays of the site, each with the pages that host it. */
export function useOverlays() {
  const site = useSite();
  return useQuery({
    queryKey: [site, "overlays"],
    queryFn: async ({ signal }) =>
      unwrap(await api.GET("/sites/{site}/overlays", { signal, params: { path: { site } } })),
  });
}

/** What a block's text says of the block. */
export function useHead(source: string) {
  const site = useSite();
  const text = useDeferredValue(
    /^---\r?\n(?:[^]*?\n)?---[ \t]*(?:\r?\n|$)/.exec(source)?.[0] ?? "",
  );
  const { data } = useQuery({
    queryKey: ["head", text],
    queryFn: async ({ signal }) =>
      unwrap(
        await api.POST("/sites/{site}/block-heads", {
          signal,
          params: { path: { site } },
          body: { text },
        }),
      ),
    placeholderData: (old) => old,
    gcTime: 10_000,
  });
  return data;
}

/** What a text of site.yaml says; undefined until that is known. */
export function useSiteReading(text: string) {
  const site = useSite();
  const { data } = useQuery({
    queryKey: ["site-reading", site, text],
    queryFn: async ({ signal }) =>
      unwrap(
        await api.POST("/sites/{site}/site-readings", {
          signal,
          params: { path: { site } },
          body: { text },
        }),
      ),
    placeholderData: (old) => old,
    gcTime: 10_000,
    enabled: text !== "",
  });
  return data;
}

/** Which pages show a value of the site; asked where it has a name. */
export function useSiteValue(value: string) {
  const site = useSite();
  return useQuery({
    queryKey: [site, "site-value", value],
    queryFn: async ({ signal }) =>
      unwrap(
        await api.GET("/sites/{site}/site-values/{value}", {
          signal,
          params: { path: { site, value } },
        }),
      ),
    enabled: value !== "",
    retry: false,
  });
}

/** What is published as it is. */
export function useFiles() {
  const site = useSite();
  return useQuery({
    queryKey: [site, "files"],
    queryFn: async ({ signal }) =>
      unwrap(await api.GET("/sites/{site}/files", { signal, params: { path: { site } } })),
  });
}

/** Which pages show a file, and what names it; asked where there is a path. */
export function useFileUses(path: string) {
  const site = useSite();
  return useQuery({
    queryKey: [site, "file-uses", path],
    queryFn: async ({ signal }) =>
      unwrap(
        await api.GET("/sites/{site}/files/uses", {
          signal,
          params: { path: { site }, query: { path } },
        }),
      ),
    enabled: path !== "",
  });
}

/** How the site and the folder that it is kept in stand to one another. */
export function useFolder() {
  const site = useSite();
  return useQuery({
    queryKey: [site, "folder"],
    queryFn: async ({ signal }) =>
      unwrap(await api.GET("/sites/{site}/folder", { signal, params: { path: { site } } })),
  });
}

/** What a document is in the folder that the site is kept in. */
export function useFolderText(path: string) {
  const site = useSite();
  return useQuery({
    queryKey: [site, "folder", path],
    queryFn: async ({ signal }) =>
      unwrap(
        await api.GET("/sites/{site}/folder/text", {
          signal,
          params: { path: { site }, query: { path } },
        }),
      ),
  });
}
