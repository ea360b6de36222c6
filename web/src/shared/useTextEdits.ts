import { useCallback, useEffect, useRef, useState } from "react";
import { api, unwrap, type PageEdit } from "../api/client";
import { useSite } from "../api/queries";
import { characters } from "./editor/characters";
import { begin, end } from "./underWay";

/** Edits of a text that the server makes, one after the other, each on what the one
 *  before gave. wrong is what was said of the last one, where it could not be. */
export function useTextEdits(text: string, change: (text: string) => void) {
  const latest = useRef(text);
  const queue = useRef(Promise.resolve());
  const waiting = useRef(0);
  const [wrong, setWrong] = useState("");
  useEffect(() => {
    if (waiting.current === 0) latest.current = text;
  }, [text]);
  const put = useRef(change);
  useEffect(() => {
    put.current = change;
  });
  const run = useCallback((edit: (text: string) => Promise<string>) => {
    waiting.current++;
    begin();
    queue.current = queue.current
      .then(() => edit(latest.current))
      .then(
        (next) => {
          latest.current = next;
          setWrong("");
          put.current(next);
        },
        (e: unknown) => setWrong((e as Error).message),
      )
      .finally(() => {
        waiting.current--;
        end();
      });
  }, []);
  return { run, wrong, forget: () => setWrong("") };
}

/** What a key of a document's YAML is to say; nothing takes it away. */
export interface KeyValue {
  keys: string[];
  value: unknown;
  /** Moves the key before the one at this place among the others, in place of a value. */
  before?: number;
}

/** useTextEdits for the keys of a document's YAML or front matter. */
export function useKeyEdits(path: string, text: string, change: (text: string) => void) {
  const site = useSite();
  const { run, wrong } = useTextEdits(text, change);
  const setAll = useCallback(
    (edits: KeyValue[]) =>
      run(async (now) => {
        for (const { keys, value, before } of edits)
          now = unwrap(
            await api.POST("/sites/{site}/key-edits", {
              params: { path: { site } },
              body: {
                path,
                text: now,
                keys,
                ...(before === undefined ? { value: value ?? null } : { before }),
              },
            }),
          ).text;
        return now;
      }),
    [run, site, path],
  );
  const set = useCallback((keys: string[], value: unknown) => setAll([{ keys, value }]), [setAll]);
  return { set, setAll, wrong };
}

/** useTextEdits for what a page's own text puts where; on is another text to do it to, and there is
 *  told the character at which the call begins that was put there. */
export function usePageEdits(path: string, text: string, change: (text: string) => void) {
  const site = useSite();
  const { run, wrong } = useTextEdits(text, change);
  const edit = useCallback(
    (what: PageEdit, on?: string, there?: (at: number) => void) =>
      run(async (now) => {
        const next = unwrap(
          await api.POST("/sites/{site}/page-edits", {
            params: { path: { site } },
            body: { path, text: on ?? now, ...what },
          }),
        );
        if (next.at !== undefined) there?.(characters(next.text, next.at));
        return next.text;
      }),
    [run, site, path],
  );
  return { edit, wrong };
}

/** useTextEdits for the regions of a layout. */
export function useLayoutEdits(text: string, change: (text: string) => void) {
  const site = useSite();
  const { run, wrong } = useTextEdits(text, change);
  const edit = useCallback(
    (what: { edit: "add" | "drop"; region: string; after?: string }) =>
      run(
        async (now) =>
          unwrap(
            await api.POST("/sites/{site}/layout-edits", {
              params: { path: { site } },
              body: { text: now, ...what },
            }),
          ).text,
      ),
    [run, site],
  );
  return { edit, wrong };
}
