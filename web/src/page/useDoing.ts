import { useMemo } from "react";
import type { PageEdit, PagePart } from "../api/client";
import type { Act } from "../shared/copies/acts";
import type { useActing } from "../shared/copies/useActing";
import { characters } from "../shared/editor/characters";
import type { usePageEdits } from "../shared/useTextEdits";
import type { useText } from "../shared/useEdit";
import type { usePointing } from "./usePointing";

/** What one can do with what stands in a region. */
export interface Doing {
  doc: string; // the page's document
  settled: boolean; // nothing is unsaved, so that what concerns more than the text can be done
  edit: (what: PageEdit, open?: boolean) => void; // open: with the form of the call that it puts there
  light: (address: string, title?: string) => void; // with a title, its values too
  values: (part: PagePart) => void;
  send: (part: PagePart) => void;
  act: (act: Act, address: string, title: string, of: string) => void;
}

interface Given {
  doc: string;
  text: ReturnType<typeof useText>;
  pointing: ReturnType<typeof usePointing>;
  edit: ReturnType<typeof usePageEdits>["edit"];
  send: (part: PagePart) => void;
  act: ReturnType<typeof useActing>["want"];
}

/** What can be done with the parts of a page's outline. */
export function useDoing({ doc, text, pointing, edit, send, act }: Given): Doing {
  const { setAt, setLit, setPlaced } = pointing;
  return useMemo<Doing>(
    () => ({
      doc,
      settled: !text.dirty,
      edit: (what, open = false) => {
        setAt(-1);
        if (open) setPlaced(null);
        edit(what, undefined, open ? (at) => setAt(at + 3) : undefined);
      },
      light: (address, title) => {
        setAt(-1);
        setLit(address);
        setPlaced(address && title ? { address, title, found: address } : null);
      },
      values: (part) => {
        setPlaced(null);
        setLit(part.address);
        setAt(part.copy ? -1 : characters(text.text, part.from) + 2);
      },
      send,
      act: (what, address, title, of) => act(what, [{ doc, address, title, of }]),
    }),
    [setAt, setLit, setPlaced, edit, send, text.text, text.dirty, act, doc],
  );
}
