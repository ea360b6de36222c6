import { createContext, use, useEffect, useMemo, useRef, useState, type ReactNode } from "react";
import {
  allKept,
  forget,
  formerName,
  keep,
  keptOf,
  liveTabs,
  ownName,
  type Buffer,
  type Kept,
} from "./kept";

interface Buffers {
  get: (site: string, path: string) => Buffer | undefined;
  set: (site: string, path: string, buffer: Buffer | null) => void;
  /** Puts what was saved in place of what was sent; what has been typed since stays. */
  settle: (site: string, path: string, sent: string, saved: string) => void;
  /** Lets go of what was sent and is saved, under a hash; what has been typed since goes on
   *  from there. */
  landed: (site: string, path: string, sent: string, hash: string) => void;
  /** Takes back the last change of what is not saved. It stays where that is not known any
   *  more, as after a reload. */
  back: (site: string) => "taken back" | "stays" | "nothing";
  /** The documents of a site that have unsaved edits. */
  unsaved: (site: string) => string[];
  /** What tabs that are closed had not saved, the newest first. */
  left: Kept[];
  takeUp: (kept: Kept) => void;
  letGo: (kept: Kept) => void;
  all: Record<string, Buffer>;
}

const none: Buffers = {
  get: () => undefined,
  set: () => undefined,
  settle: () => undefined,
  landed: () => undefined,
  back: () => "nothing",
  unsaved: () => [],
  left: [],
  takeUp: () => undefined,
  letGo: () => undefined,
  all: {},
};
const BuffersContext = createContext<Buffers>(none);

export const useBuffers = () => use(BuffersContext);

const remembered = 200; // changes that can be taken back

function put(
  all: Record<string, Buffer>,
  key: string,
  buffer: Buffer | null | undefined,
): Record<string, Buffer> {
  if (buffer) return { ...all, [key]: buffer };
  return Object.fromEntries(Object.entries(all).filter(([k]) => k !== key));
}

/** Keeps unsaved edits while one goes from place to place, over a reload, a closed tab and
 *  a crash. */
export function BuffersProvider({ children }: { children: ReactNode }) {
  const [former] = useState(formerName);
  const [tab, setTab] = useState<string>();
  const [all, setAll] = useState<Record<string, Buffer>>(() => keptOf(former)?.all ?? {});
  const [left, setLeft] = useState<Kept[]>([]);
  const steps = useRef<{ key: string; before: Buffer | undefined }[]>([]);
  useEffect(() => {
    let here = true;
    void ownName(former).then(async (own) => {
      if (here) setTab(own);
      const live = await liveTabs(own);
      if (here) setLeft(allKept().filter((k) => !live.has(k.tab)));
    });
    return () => {
      here = false;
    };
  }, [former]);
  // Nothing is kept under a name that may be another tab's.
  useEffect(() => {
    if (tab) keep(tab, all);
  }, [tab, all]);
  const value = useMemo<Buffers>(() => {
    const step = (key: string, before: Buffer | undefined) => {
      steps.current.push({ key, before });
      if (steps.current.length > remembered) steps.current.shift();
    };
    return {
      all,
      left,
      get: (site, path) => all[`${site}:${path}`],
      set: (site, path, buffer) => {
        const key = `${site}:${path}`;
        step(key, all[key]);
        setAll((old) => put(old, key, buffer));
      },
      settle: (site, path, sent, saved) =>
        setAll((old) => {
          const buffer = old[`${site}:${path}`];
          return buffer?.text === sent
            ? { ...old, [`${site}:${path}`]: { ...buffer, text: saved } }
            : old;
        }),
      landed: (site, path, sent, hash) => {
        const key = `${site}:${path}`;
        steps.current = steps.current.filter((s) => s.key !== key);
        setAll((old) => {
          const buffer = old[key];
          return buffer
            ? put(old, key, buffer.text === sent ? null : { ...buffer, base: hash })
            : old;
        });
      },
      back: (site) => {
        for (let last = steps.current.pop(); last; last = steps.current.pop()) {
          const { key, before } = last;
          if (!key.startsWith(`${site}:`) || all[key] === before || all[key]?.text === before?.text)
            continue;
          setAll((old) => put(old, key, before));
          return "taken back";
        }
        return Object.keys(all).some((k) => k.startsWith(`${site}:`)) ? "stays" : "nothing";
      },
      unsaved: (site) =>
        Object.keys(all)
          .filter((k) => k.startsWith(`${site}:`))
          .map((k) => k.slice(site.length + 1))
          .sort(),
      takeUp: (kept) => {
        setAll((old) => ({ ...kept.all, ...old }));
        // What is being edited here too waits until that is saved or let go.
        const waits = Object.fromEntries(
          Object.entries(kept.all).filter(
            ([key, b]) => all[key] !== undefined && all[key].text !== b.text,
          ),
        );
        keep(kept.tab, waits);
        setLeft((old) =>
          old.flatMap((k) =>
            k.tab !== kept.tab ? [k] : Object.keys(waits).length > 0 ? [{ ...k, all: waits }] : [],
          ),
        );
      },
      letGo: (kept) => {
        forget(kept.tab);
        setLeft((old) => old.filter((k) => k.tab !== kept.tab));
      },
    };
  }, [all, left]);
  return <BuffersContext value={value}>{children}</BuffersContext>;
}
