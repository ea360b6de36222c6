import { useCallback, useState } from "react";

/** Of a site with more pages than this, sections that are large stand folded up at first. */
const many = 20_000;
const large = 2_000;

/** Which part of the site the wall shows, and what of it stands folded up, as far as anybody said so. */
export interface Zoom {
  /** What the addresses of its pages begin with; "/" of all. */
  within: string;
  folded: (prefix: string, count: number) => boolean;
  into: (prefix: string) => void;
  out: () => void;
  fold: (prefix: string, on: boolean) => void;
  foldAll: (on: boolean) => void;
}

/** The part of the site above one: that of /a/b/ is /a/. */
export const aboveOf = (prefix: string) => prefix.replace(/[^/]+\/$/, "");

export function useZoom(pages: { path: string }[]): Zoom {
  const [at, setAt] = useState("/");
  const [folds, setFolds] = useState<{ all: boolean | null; some: ReadonlyMap<string, boolean> }>({
    all: null,
    some: new Map(),
  });
  // Where its last page has gone, what is above it is shown.
  let within = at;
  while (within !== "/" && !pages.some((p) => p.path.startsWith(within))) within = aboveOf(within);
  const tooMany = pages.length > many;
  const folded = useCallback(
    (prefix: string, count: number) =>
      folds.some.get(prefix) ?? folds.all ?? (tooMany && count > large && prefix !== within),
    [folds, tooMany, within],
  );
  return {
    within,
    folded,
    into: setAt,
    out: () => setAt(aboveOf(within)),
    fold: (prefix, on) => setFolds((f) => ({ ...f, some: new Map(f.some).set(prefix, on) })),
    foldAll: (on) => setFolds({ all: on, some: new Map() }),
  };
}
