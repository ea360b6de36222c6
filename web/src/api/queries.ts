import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useEffectEvent } from "react";
import { useParams } from "react-router";
import { api, readDocument, unwrap, type ChangeSet } from "./client";

/** The name of the site in the address. */
export function useSite(): string {
  return useParams().site ?? "";
}

export function useOverview() {
  const site = useSite();
  return useQuery({
    queryKey: [site, "overview"],
    queryFn: async () => unwrap(await api.GET("/sites/{site}", { params: { path: { site } } })),
  });
}

export function useBlock(block: string) {
  const site = useSite();
  return useQuery({
    queryKey: [site, "block", block],
    queryFn: async () => unwrap(await api.GET("/sites/{site}/blocks/{block}", { params: { path: { site, block } } })),
    retry: false,
  });
}

export function useDocument(path: string) {
  const site = useSite();
  return useQuery({ queryKey: [site, "document", path], queryFn: () => readDocument(site, path), enabled: path !== "" });
}

export function useReview() {
  const site = useSite();
  return useQuery({
    queryKey: [site, "review"],
    queryFn: async () => unwrap(await api.GET("/sites/{site}/review", { params: { path: { site } } })),
  });
}

export function useFindings() {
  const site = useSite();
  return useQuery({
    queryKey: [site, "findings"],
    queryFn: async () => unwrap(await api.GET("/sites/{site}/findings", { params: { path: { site } } })),
  });
}

export function useComparison(against: string, page: string) {
  const site = useSite();
  return useQuery({
    queryKey: [site, "comparison", against, page],
    queryFn: async () => unwrap(await api.GET("/sites/{site}/comparisons/{against}", { params: { path: { site, against }, query: { page } } })),
    enabled: against !== "" && page !== "",
    retry: false,
    placeholderData: (old) => old,
  });
}

/** Forgets everything that a change of the draft can make untrue. */
export function useRefresh() {
  const site = useSite();
  const client = useQueryClient();
  return () => client.invalidateQueries({ queryKey: [site] });
}

export function useSave() {
  const site = useSite();
  const refresh = useRefresh();
  return useMutation({
    mutationFn: async (body: ChangeSet) => unwrap(await api.POST("/sites/{site}/change-sets", { params: { path: { site } }, body })),
    onSuccess: refresh,
  });
}

export function useStep(step: "undo" | "redo") {
  const site = useSite();
  const refresh = useRefresh();
  return useMutation({
    mutationFn: async () => unwrap(await api.POST(`/sites/{site}/${step}`, { params: { path: { site } } })),
    onSuccess: refresh,
  });
}

/** Listens for changes made in other tabs or by other people. */
export function useEvents(told: (kind: "draft" | "release", title: string) => void) {
  const site = useSite();
  const refresh = useRefresh();
  const hear = useEffectEvent((kind: "draft" | "release", e: MessageEvent<string>) => {
    void refresh();
    told(kind, (JSON.parse(e.data) as { title: string }).title);
  });
  const checked = useEffectEvent(refresh);
  useEffect(() => {
    if (!site) return;
    const source = new EventSource(`/api/v1/sites/${encodeURIComponent(site)}/events`);
    source.addEventListener("draft", (e: MessageEvent<string>) => hear("draft", e));
    source.addEventListener("checks", () => void checked());
    source.addEventListener("release", (e: MessageEvent<string>) => hear("release", e));
    return () => source.close();
  }, [site]);
}
