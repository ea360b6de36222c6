import { startTransition, useEffect, useReducer, useRef } from "react";
import { settled } from "./underWay";

/** Saves at Ctrl+S, what was typed just now included: when the edits that are under way have
 *  landed, and what they would do has been worked out. working tells that this is going on;
 *  a wish to save what then cannot be saved is dropped. */
export function useSaveKey(working: boolean, savable: boolean, save: () => void) {
  const [wishes, wish] = useReducer((n: number) => n + 1, 0);
  const granted = useRef(0);
  useEffect(() => {
    const key = (e: KeyboardEvent) => {
      if (!(e.ctrlKey || e.metaKey) || e.key !== "s") return;
      e.preventDefault();
      // As a transition, the wish is seen only with whatever was put into the text before it.
      void (settled() ?? Promise.resolve()).then(() => startTransition(wish));
    };
    addEventListener("keydown", key);
    return () => removeEventListener("keydown", key);
  }, []);
  useEffect(() => {
    if (granted.current === wishes || working) return;
    granted.current = wishes;
    if (savable) save();
  }, [wishes, working, savable, save]);
}
