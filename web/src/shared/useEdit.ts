import { useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, unwrap, type ChangeSet, type Overview } from "../api/client";
import { useSave } from "../api/changes";
import { useDocument, useOverview, useSite } from "../api/queries";
import { useBuffers } from "./buffers";
import { nameOf } from "./nameOf";
import type { Buffer } from "./kept";

const none = { text: "", hash: "" };

/** A document being edited: its text, whether that is saved, and where it
 *  collides with what somebody else has saved. */
export function useText(path: string, exists = true) {
  const site = useSite();
  const doc = useDocument(exists ? path : "");
  const buffers = useBuffers();
  const buffer = buffers.get(site, path);
  const saved = exists ? doc.data : none;
  const text = buffer?.text ?? saved?.text ?? "";
  const set = (next: string) => {
    if (!saved) return;
    const base = buffer?.base ?? saved.hash;
    buffers.set(
      site,
      path,
      next === saved.text && base === saved.hash ? null : { text: next, base },
    );
  };
  // A buffer whose text has been saved meanwhile, by this tab or another, is done.
  const done = buffer !== undefined && saved !== undefined && buffer.text === saved.text;
  useEffect(() => {
    if (done) buffers.landed(site, path, text, saved.hash);
  }, [done, buffers, site, path, text, saved]);
  return {
    text,
    loaded: saved !== undefined,
    exists: (saved?.hash ?? "") !== "",
    dirty: buffer !== undefined && !done,
    stale: buffer !== undefined && saved !== undefined && !done && buffer.base !== saved.hash,
    saved: saved?.text ?? "",
    hash: saved?.hash ?? "",
    set,
    drop: () => buffers.set(site, path, null),
    rebase: (next: string) => saved && buffers.set(site, path, { text: next, base: saved.hash }),
  };
}

/** Keys that follow one another within so many milliseconds are asked about once. */
const together = 30;

/** What is saved in place of a change set, which does the same and is better kept; and
 *  what to do once it is saved. */
export type Ready = (set: ChangeSet) => Promise<{ set: ChangeSet; landed: () => void }>;

/** The unsaved edits of some documents as a change set, with what they would
 *  change, worked out while typing. */
export function useProposal(paths: string[], title: string, ready?: Ready) {
  const site = useSite();
  const buffers = useBuffers();
  const overview = useOverview();
  const version = overview.data?.version ?? 0;
  const key = paths.join("\n");
  const changes = useMemo<ChangeSet["changes"]>(
    () =>
      key.split("\n").flatMap((path) => {
        const b: Buffer | undefined = buffers.get(site, path);
        if (!b) return [];
        const gone = b.text === "" && /^blocks\/.*\.(css|js)$/.test(path);
        return [{ path, before: b.base, ...(gone ? { delete: true } : { text: b.text }) }];
      }),
    [key, buffers, site],
  );
  const [asked, setAsked] = useState(changes);
  const last = useRef(-Infinity);
  useLayoutEffect(() => {
    // before the key is painted, so that the answer is on its way
    const ask = () => {
      last.current = performance.now();
      setAsked(changes);
    };
    if (changes.length === 0 || performance.now() - last.current > together) {
      ask();
      return;
    }
    const timer = setTimeout(ask, together);
    return () => clearTimeout(timer);
  }, [changes]);
  const answer = useQuery({
    queryKey: ["proposal", site, title, version, nameOf(asked)],
    queryFn: async ({ signal }) => ({
      proposal: unwrap(
        await api.POST("/sites/{site}/proposals", {
          signal,
          params: { path: { site } },
          body: { title, changes: asked },
        }),
      ),
      for: asked,
    }),
    enabled: asked.length > 0,
    placeholderData: keepPreviousData,
    structuralSharing: false,
    staleTime: Infinity,
    gcTime: 0,
    retry: false,
  });
  const save = useSave();
  const { mutateAsync } = save;
  const [readying, setReadying] = useState(false);
  const doSave = useCallback(async () => {
    const sent: ChangeSet = { title, changes };
    let made: Awaited<ReturnType<Ready>> = { set: sent, landed: () => undefined };
    if (ready) {
      setReadying(true); // it is being saved from here on
      made = await ready(sent).finally(() => setReadying(false));
    }
    return mutateAsync({
      ...made.set,
      landed: (saved) => {
        for (const c of changes) {
          const text = made.set.changes.find((s) => s.path === c.path)?.text ?? "";
          buffers.settle(site, c.path, c.text ?? "", text);
          const hash = saved.hashes?.[c.path];
          if (hash !== undefined) buffers.landed(site, c.path, text, hash);
        }
        made.landed();
      },
    });
  }, [mutateAsync, title, changes, ready, buffers, site]);
  const dirty = changes.length > 0;
  const fresh = answer.data?.for === changes; // also while asked again since the site has moved on
  const failed = asked === changes ? answer.error : null;
  const saving = save.isPending || readying;
  return {
    changes,
    dirty,
    proposal: dirty ? (answer.data?.proposal ?? null) : null,
    fresh,
    failed: dirty ? (failed?.message ?? "") : "",
    save: doSave,
    saving,
    /** It is being saved, or it is not known yet what the edit would do. */
    working: dirty && (saving || (!fresh && !failed)),
  };
}

/** How long nothing must be under way before a rendering is loaded. */
const quietFor = 40;

/** A value as it was when last nothing was under way: what takes the browser longer
 *  follows when one stops typing for a moment. */
export function useQuiet<T>(value: T, quiet: boolean): T {
  const [shown, setShown] = useState(value);
  useEffect(() => {
    if (!quiet) return;
    const timer = setTimeout(() => setShown(value), quietFor);
    return () => clearTimeout(timer);
  }, [value, quiet]);
  return shown;
}

const noChanges: ChangeSet["changes"] = [];

/** Where a text can be looked at that stands on no page, and why it cannot; both are
 *  "" until that is known. */
export interface Tried {
  url: string;
  problem: string;
}

/** Looks at a text as if it stood on a page of its own, with the layout that most pages
 *  have. With more the site is as it would be with those edits too. Nothing is saved. */
export function useTry(
  text: string,
  overview: Overview,
  more: ChangeSet["changes"] = noChanges,
): Tried {
  const site = useSite();
  const page = useMemo(() => {
    const counts = new Map<string, number>();
    for (const p of overview.pages) counts.set(p.layout, (counts.get(p.layout) ?? 0) + 1);
    const layout = [...counts].sort((a, b) => b[1] - a[1])[0]?.[0];
    return `---\ntitle: Sample\n${layout ? `layout: ${layout}\n` : ""}---\n${text}\n`;
  }, [text, overview.pages]);
  const { data, error } = useQuery({
    queryKey: [site, "try", page, more, overview.version],
    queryFn: async () =>
      unwrap(
        await api.POST("/sites/{site}/proposals", {
          params: { path: { site } },
          body: {
            title: "Try",
            changes: [...more, { path: "pages/shelf-sample.html", before: "", text: page }],
          },
        }),
      ),
    enabled: text !== "",
    placeholderData: (old) => old,
    gcTime: 0,
  });
  const problem = error?.message ?? data?.problems[0]?.message ?? "";
  return {
    url:
      data && !problem
        ? `${overview.site_origin}/_edit/${data.id}/shelf-sample${overview.exact ? ".html" : "/"}`
        : "",
    problem,
  };
}
