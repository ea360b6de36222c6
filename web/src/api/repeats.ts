import { keepPreviousData, skipToken, useQuery } from "@tanstack/react-query";
import { api, unwrap, type Schemas } from "./client";
import { useSite } from "./queries";

export type Repeat = Schemas["Repeat"];
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

/** A repeated piece with its places and what they say; null asks for none. */
export function useRepeat(piece: string | null) {
  const site = useSite();
  return useQuery({
    queryKey: [site, "repeats", piece],
    queryFn: piece
      ? async ({ signal }) =>
          unwrap(
            await api.GET("/sites/{site}/repeats/{piece}", {
              signal,
              params: { path: { site, piece } },
            }),
          )
      : skipToken,
    placeholderData: keepPreviousData,
    retry: false,
  });
}
