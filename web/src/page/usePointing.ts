import { useCallback, useState } from "react";
import { api, unwrap, type Overview } from "../api/client";
import { useSite } from "../api/queries";
import type { OwnElement, Pointed } from "../shared/rendering/Live";
import { characters } from "../shared/editor/characters";
import { tell } from "../shared/notices";

/** Something in the rendering that the page's own text does not hold. */
export interface Elsewhere {
  title: string;
  address: string;
  block: string;
  place: string;
}

/** A placement of a block that the page's own text does not hold; found is the address
 *  at which it was pointed at, before its call had a key. */
export interface Placed {
  title: string;
  address: string;
  found: string;
}

/** A range of a document, in bytes. */
export interface Range {
  from: number;
  to: number;
}

/** What is chosen on a page, in its rendering, its outline or its text: the call under
 *  the cursor (at, in characters), the placement that is lit, the one of which values are asked for,
 *  elements of the text. */
export function usePointing(doc: string, source: string, overview: Overview) {
  const site = useSite();
  const [at, setAt] = useState(-1);
  const [lit, setLit] = useState("");
  const [chosen, setChosen] = useState<(Range & { tags: string }) | null>(null);
  const [elsewhere, setElsewhere] = useState<Elsewhere | null>(null);
  const [placed, setPlaced] = useState<Placed | null>(null);
  const point = useCallback(
    (p: Pointed) => {
      setElsewhere(null);
      setChosen(null);
      setPlaced(null);
      void api
        .POST("/sites/{site}/calls", {
          params: { path: { site } },
          body: { text: source, at: 0, addresses: p.addresses },
        })
        .then((a) => {
          const call = unwrap(a);
          const inner = p.addresses[0] ?? "";
          const block = p.blocks[0] ?? "";
          const known = overview.blocks.find((b) => b.name === block);
          setLit(inner);
          if (call.name && (call.address === inner || !known)) {
            setAt(characters(source, call.from) + 2);
            setLit(call.address);
            return;
          }
          setAt(-1);
          if (known) setPlaced({ title: known.title, address: inner, found: inner });
          else setElsewhere({ title: block, address: inner, block, place: "scripts" });
        })
        .catch(() => undefined);
    },
    [site, source, overview.blocks],
  );
  const own = useCallback(
    (e: OwnElement) => {
      setElsewhere(null);
      setPlaced(null);
      setLit("");
      void api
        .POST("/sites/{site}/elements", { params: { path: { site } }, body: { doc, at: e.at } })
        .then((a) => {
          const range = unwrap(a);
          setChosen((old) =>
            e.more && old
              ? {
                  from: Math.min(old.from, range.from),
                  to: Math.max(old.to, range.to),
                  tags: `${old.tags} ${e.tag}`,
                }
              : { ...range, tags: e.tag },
          );
        })
        .catch((problem: unknown) => tell((problem as Error).message, "warning"));
    },
    [site, doc],
  );
  /** Follows what addresses are called from now on. */
  const rename = (names: Record<string, string>) => {
    setPlaced((p) => p && { ...p, address: names[p.address] ?? p.address });
    setLit((l) => names[l] ?? l);
  };
  return {
    rename,
    at,
    setAt,
    lit,
    setLit,
    chosen,
    setChosen,
    elsewhere,
    setElsewhere,
    placed,
    setPlaced,
    point,
    own,
  };
}
