import { skipToken, useQuery } from "@tanstack/react-query";
import { api, unwrap, type Schemas } from "./client";
import { useSite } from "./queries";

export type Unit = Schemas["Unit"];
export type Arrival = Schemas["Arrival"];
export type ArrivingDoc = Schemas["ArrivingDoc"];
export type Decision = Schemas["ArrivalDecision"];
export type Library = Schemas["Library"];

/** What can be taken of a site; with of, what was chosen and all that it needs. */
export function useUnits(site: string, of?: string[]) {
  const asked = site !== "" && of?.length !== 0;
  return useQuery({
    queryKey: [site, "units", of ?? "all"],
    queryFn: asked
      ? async ({ signal }) =>
          unwrap(
            await api.GET("/sites/{site}/units", {
              signal,
              params: { path: { site }, query: { ...(of && { of }) } },
            }),
          )
      : skipToken,
  });
}

/** The sites from which blocks of this one came, and which of these are others there now. */
export function useLibraries() {
  const site = useSite();
  return useQuery({
    queryKey: [site, "libraries"],
    queryFn: async ({ signal }) =>
      unwrap(await api.GET("/sites/{site}/libraries", { signal, params: { path: { site } } })),
    staleTime: 0, // the other site changes without a word
  });
}

/** All sites of this server that are not deleted. */
export function useSites() {
  return useQuery({
    queryKey: ["sites"],
    queryFn: async () => unwrap(await api.GET("/sites")),
    staleTime: 0,
    select: (list) => list.filter((s) => !s.deleted),
  });
}

/** Hands in a zip of a part, to be looked at before anything of it is taken. */
export async function handIn(site: string, zip: Blob) {
  return unwrap(
    await api.POST("/sites/{site}/parts", {
      params: { path: { site } },
      body: zip as unknown as string,
      bodySerializer: (b) => b,
      headers: { "Content-Type": "application/zip" },
    }),
  );
}

/** The address of a zip of a part. */
export const partZip = (site: string, of: string[]) =>
  `/api/v1/sites/${encodeURIComponent(site)}/part?${new URLSearchParams(of.map((id) => ["of", id])).toString()}`;
