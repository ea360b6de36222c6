import { createContext, use, useEffect, useMemo, useState, type ReactNode } from "react";

/** An edit that is not saved: the text, and the hash of what it began from. */
export interface Buffer {
  text: string;
  base: string;
}

interface Buffers {
  get: (site: string, path: string) => Buffer | undefined;
  set: (site: string, path: string, buffer: Buffer | null) => void;
  /** Puts what was saved in place of what was sent; what has been typed since stays. */
  settle: (site: string, path: string, sent: string, saved: string) => void;
  all: Record<string, Buffer>;
}

const BuffersContext = createContext<Buffers>({ get: () => undefined, set: () => undefined, settle: () => undefined, all: {} });

export const useBuffers = () => use(BuffersContext);

/** Keeps unsaved edits while one goes from place to place, and over a reload. */
export function BuffersProvider({ children }: { children: ReactNode }) {
  const [all, setAll] = useState<Record<string, Buffer>>(() => {
    try {
      return JSON.parse(sessionStorage.getItem("buffers") ?? "{}") as Record<string, Buffer>;
    } catch {
      return {};
    }
  });
  useEffect(() => {
    try {
      sessionStorage.setItem("buffers", JSON.stringify(all));
    } catch {
      // Too large to keep over a reload; it still stands in memory.
    }
  }, [all]);
  const value = useMemo<Buffers>(
    () => ({
      all,
      get: (site, path) => all[`${site}:${path}`],
      set: (site, path, buffer) =>
        setAll((old) => {
          const key = `${site}:${path}`;
          if (buffer) return { ...old, [key]: buffer };
          return Object.fromEntries(Object.entries(old).filter(([k]) => k !== key));
        }),
      settle: (site, path, sent, saved) =>
        setAll((old) => {
          const buffer = old[`${site}:${path}`];
          return buffer?.text === sent ? { ...old, [`${site}:${path}`]: { ...buffer, text: saved } } : old;
        }),
    }),
    [all],
  );
  return <BuffersContext value={value}>{children}</BuffersContext>;
}
