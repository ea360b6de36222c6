import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useEffect, useEffectEvent } from "react";
import { api, client, unwrap, type ChangeSet, type Saved } from "./client";
import { connection } from "./connection";
import { goingOn, type Progress } from "./goingOn";
import { telling } from "./telling";
import { documentOf, overviewOf, useSite } from "./queries";

/** Forgets everything that a change of the draft can make untrue. */
export function useRefresh() {
  const site = useSite();
  const queries = useQueryClient();
  return () => queries.invalidateQueries({ queryKey: [site] });
}

/** What is told while a change set is on its way, and what calls it back. */
interface Sending {
  landed?: (saved: Saved) => void;
  /** How much of it has gone out, from 0 to 1. */
  sent?: (share: number) => void;
  signal?: AbortSignal;
}

/** Saves a change set; landed is called once it is, before anything is asked anew. */
export function useSave() {
  const site = useSite();
  const refresh = useRefresh();
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async ({ landed, sent, signal, ...body }: ChangeSet & Sending) => {
      const saved = unwrap(
        await api.POST("/sites/{site}/change-sets", {
          params: { path: { site } },
          body,
          ...(signal && { signal }),
          ...(sent && { fetch: telling(sent) }),
        }),
      );
      for (const c of body.changes) {
        // known at once, before anybody types on what was there before
        const hash = saved.hashes?.[c.path];
        if (hash !== undefined && (c.text !== undefined || c.delete))
          queries.setQueryData(documentOf(site, c.path).queryKey, { text: c.text ?? "", hash });
      }
      landed?.(saved);
      return saved;
    },
    onSuccess: refresh,
  });
}

export function useStep(step: "undo" | "redo") {
  const site = useSite();
  const refresh = useRefresh();
  return useMutation({
    mutationFn: async () =>
      unwrap(await api.POST(`/sites/{site}/${step}`, { params: { path: { site } } })),
    onSuccess: refresh,
  });
}

/** Listens for changes made in other tabs or by other people. */
export function useEvents(told: (kind: "draft" | "release", title: string) => void) {
  const site = useSite();
  const refresh = useRefresh();
  const hear = useEffectEvent((kind: "draft" | "release", e: MessageEvent<string>) => {
    const event = JSON.parse(e.data) as { title: string; by: string };
    if (event.by === client) return; // what the answer to that has told already
    void refresh();
    told(kind, event.title);
  });
  const queries = useQueryClient();
  const checked = useEffectEvent(refresh);
  // Another process may answer now, which knows nothing of what was proposed to that before.
  const anew = useEffectEvent(() => void queries.invalidateQueries());
  // The checks can have ended after the overview was told and before anybody listened.
  const caughtUp = useEffectEvent(() => {
    if (queries.getQueryData(overviewOf(site).queryKey)?.checked === false)
      void queries.invalidateQueries({ queryKey: overviewOf(site).queryKey });
  });
  useEffect(() => {
    if (!site) return;
    const source = new EventSource(`/api/v1/sites/${encodeURIComponent(site)}/events`);
    let connected = false;
    source.addEventListener("error", connection.lost);
    source.addEventListener("hello", () => {
      connection.back();
      if (connected) anew();
      else caughtUp();
      connected = true;
    });
    source.addEventListener("draft", (e: MessageEvent<string>) => hear("draft", e));
    source.addEventListener("folder", () => void checked());
    source.addEventListener("gone", () => void checked());
    source.addEventListener("checks", () => void checked());
    source.addEventListener("progress", (e: MessageEvent<string>) =>
      goingOn.progress(JSON.parse(e.data) as Progress),
    );
    source.addEventListener("release", (e: MessageEvent<string>) => hear("release", e));
    return () => {
      source.close();
      connection.back(); // who listens next says it anew
    };
  }, [site]);
}
