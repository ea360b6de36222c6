import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useEffect, useEffectEvent } from "react";
import { api, unwrap, type ChangeSet, type Saved } from "./client";
import { documentOf, overviewOf, useSite } from "./queries";

/** The newest state of each site that this tab has made itself and asked about. */
const own = new Map<string, number>();

/** Forgets everything that a change of the draft can make untrue. */
export function useRefresh() {
  const site = useSite();
  const client = useQueryClient();
  return () => client.invalidateQueries({ queryKey: [site] });
}

/** useRefresh after an edit of one's own, of which the events need not tell again. */
function useRefreshAfter() {
  const site = useSite();
  const refresh = useRefresh();
  return (saved: { version: number }) => {
    own.set(site, saved.version);
    return refresh();
  };
}

/** Saves a change set; landed is called once it is, before anything is asked anew. */
export function useSave() {
  const site = useSite();
  const refresh = useRefreshAfter();
  const client = useQueryClient();
  return useMutation({
    mutationFn: async ({ landed, ...body }: ChangeSet & { landed?: (saved: Saved) => void }) => {
      const saved = unwrap(
        await api.POST("/sites/{site}/change-sets", { params: { path: { site } }, body }),
      );
      for (const c of body.changes) {
        // known at once, before anybody types on what was there before
        const hash = saved.hashes?.[c.path];
        if (hash !== undefined && (c.text !== undefined || c.delete))
          client.setQueryData(documentOf(site, c.path).queryKey, { text: c.text ?? "", hash });
      }
      landed?.(saved);
      return saved;
    },
    onSuccess: refresh,
  });
}

export function useStep(step: "undo" | "redo") {
  const site = useSite();
  const refresh = useRefreshAfter();
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
    const event = JSON.parse(e.data) as { title: string; version: number };
    // The answer to an edit of one's own comes a moment after its event.
    setTimeout(() => {
      if (event.version <= (own.get(site) ?? 0)) return;
      void refresh();
      told(kind, event.title);
    }, 200);
  });
  const client = useQueryClient();
  const checked = useEffectEvent(refresh);
  // The checks can have ended after the overview was told and before anybody listened.
  const caughtUp = useEffectEvent(() => {
    if (client.getQueryData(overviewOf(site).queryKey)?.checked === false)
      void client.invalidateQueries({ queryKey: overviewOf(site).queryKey });
  });
  useEffect(() => {
    if (!site) return;
    const source = new EventSource(`/api/v1/sites/${encodeURIComponent(site)}/events`);
    let connected = false;
    source.addEventListener("hello", () => {
      own.delete(site); // a server that has started anew counts anew
      if (connected) void checked();
      else caughtUp();
      connected = true;
    });
    source.addEventListener("draft", (e: MessageEvent<string>) => hear("draft", e));
    source.addEventListener("checks", () => void checked());
    source.addEventListener("release", (e: MessageEvent<string>) => hear("release", e));
    return () => source.close();
  }, [site]);
}
