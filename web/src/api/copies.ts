import { useQuery } from "@tanstack/react-query";
import { api, unwrap } from "./client";
import { useSite } from "./queries";

/** Pieces of pages that look like a block. */
export function useLikenesses(block: string) {
  const site = useSite();
  return useQuery({
    queryKey: [site, "likenesses", block],
    queryFn: async ({ signal }) =>
      unwrap(
        await api.GET("/sites/{site}/blocks/{block}/likenesses", {
          signal,
          params: { path: { site, block } },
        }),
      ),
  });
}

/** What a document became by its last changes, the newest first. */
export function useRevisions(path: string) {
  const site = useSite();
  return useQuery({
    queryKey: [site, "revisions", path],
    queryFn: async ({ signal }) =>
      unwrap(
        await api.GET("/sites/{site}/revisions", {
          signal,
          params: { path: { site }, query: { path } },
        }),
      ),
  });
}

/** The pages that an edit changed when it was made. */
export function useRevisionImpact(edit: number) {
  const site = useSite();
  return useQuery({
    queryKey: [site, "revision-impact", edit],
    queryFn: async ({ signal }) =>
      unwrap(
        await api.GET("/sites/{site}/revisions/impact", {
          signal,
          params: { path: { site }, query: { edit } },
        }),
      ),
    enabled: edit !== 0,
    retry: false,
  });
}

/** The text of a revision of a document, which stays what it is. */
export function useRevision(path: string, hash: string) {
  const site = useSite();
  return useQuery({
    queryKey: ["revision", site, path, hash],
    queryFn: async ({ signal }) =>
      unwrap(
        await api.GET("/sites/{site}/revisions/text", {
          signal,
          params: { path: { site }, query: { path, hash } },
        }),
      ).text,
    staleTime: Infinity,
    retry: false,
  });
}

/** The one-off copies of all pages, and how each stands towards its block. */
export function useCopies() {
  const site = useSite();
  return useQuery({
    queryKey: [site, "copies"],
    queryFn: async ({ signal }) =>
      unwrap(await api.GET("/sites/{site}/copies", { signal, params: { path: { site } } })),
  });
}

/** A copy, what it came from, and what its block is now. */
export function useCopyTexts(doc: string, address: string) {
  const site = useSite();
  return useQuery({
    queryKey: [site, "copies", doc, address],
    queryFn: async ({ signal }) =>
      unwrap(
        await api.GET("/sites/{site}/copies/texts", {
          signal,
          params: { path: { site }, query: { doc, address } },
        }),
      ),
    retry: false,
  });
}
