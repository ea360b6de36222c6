import { useCallback, useRef, useState } from "react";
import { api, unwrap } from "../api/client";
import { useMenuReading, useSite } from "../api/queries";
import { flat, nested, type Entry } from "./tree";

interface Model {
  base: string; // the text that the entries come from
  text: string; // the text as they make it
  entries: Entry[];
}

/** The entries of a menu's text, and a way to give it others. The text follows; where
 *  it is changed in another way the entries do. */
export function useEntries(text: string, change: (text: string) => void) {
  const site = useSite();
  const { data: reading, isPlaceholderData: old } = useMenuReading(text);
  const [model, setModel] = useState<Model>({ base: "", text: "", entries: [] });
  const [wrong, setWrong] = useState("");
  const turn = useRef(0);
  if (reading && !old && text !== model.text && reading.problems.length === 0)
    setModel({ base: text, text, entries: flat(reading.items) });
  const { base } = model;
  const set = useCallback(
    (entries: Entry[]) => {
      const mine = ++turn.current;
      setModel((m) => ({ ...m, entries }));
      api
        .POST("/sites/{site}/menu-edits", {
          params: { path: { site } },
          body: { text: base, items: nested(entries) },
        })
        .then((a) => {
          if (mine !== turn.current) return;
          const next = unwrap(a).text;
          setWrong("");
          setModel((m) => ({ ...m, text: next }));
          change(next);
        })
        .catch((e: unknown) => mine === turn.current && setWrong((e as Error).message));
    },
    [site, base, change],
  );
  return { entries: model.entries, set, wrong, reading };
}
