import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, unwrap, type Schemas } from "./client";
import { useSite } from "./queries";

export type Words = Schemas["Words"];
export type WordsFound = Schemas["WordsFound"];
export type WordsSpot = Schemas["WordsSpot"];

/** Where the draft says something; limit is how many spots are told at most. */
export function useWords(words: Words, replacement = "", limit = 20_000) {
  const site = useSite();
  return useQuery({
    queryKey: [site, "words", words, replacement, limit],
    queryFn: async ({ signal }) =>
      unwrap(
        await api.POST("/sites/{site}/words", {
          signal,
          params: { path: { site } },
          body: { words, with: replacement, limit },
        }),
      ),
    enabled: words.text.trim() !== "",
    placeholderData: keepPreviousData,
    retry: false,
    gcTime: 30_000,
  });
}
