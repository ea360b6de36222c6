import {
  keepPreviousData,
  queryOptions,
  skipToken,
  useQueries,
  useQuery,
} from "@tanstack/react-query";
import { api, unwrap, type Schemas } from "./client";
import { useSite } from "./queries";

export type Repeat = Schemas["Repeat"];
export type RepeatField = Schemas["RepeatField"];
export type RepeatedPiece = Schemas["RepeatedPiece"];

/** The pieces that are repeated on the pages of the draft. */
export function useRepeats() {
  const site = useSite();
  return useQuery({
    queryKey: [site, "repeats"],
    queryFn: async ({ signal }) =>
      unwrap(await api.GET("/sites/{site}/repeats", { signal, params: { path: { site } } })),
    placeholderData: keepPreviousData,
    retry: false,
  });
}

/** How many places are told at once. */
export const told = 1000;

const pieceOf = (site: string, piece: string | null, after: number) =>
  queryOptions({
    queryKey: [site, "repeats", piece, after],
    queryFn: piece
      ? async ({ signal }) =>
          unwrap(
            await api.GET("/sites/{site}/repeats/{piece}", {
              signal,
              params: { path: { site, piece }, query: { after } },
            }),
          )
      : skipToken,
    retry: false,
  });

/** A repeated piece with the first of its places and what they say; null asks for none. */
export function useRepeat(piece: string | null) {
  return useQuery({ ...pieceOf(useSite(), piece, 0), placeholderData: keepPreviousData });
}

/** The places of a piece from one to another, by their number, as far as they are there. */
export function usePlacesOf(piece: string, from: number, to: number) {
  const site = useSite();
  const parts = [...new Set([from, to].map((i) => Math.floor(Math.max(i, 0) / told) * told))];
  const there = useQueries({ queries: parts.map((after) => pieceOf(site, piece, after)) });
  return (i: number) => {
    const after = Math.floor(i / told) * told;
    return there[parts.indexOf(after)]?.data?.places[i - after];
  };
}
