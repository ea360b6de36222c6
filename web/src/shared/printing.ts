import { useSyncExternalStore } from "react";

let printing = false;

/** The medium of paper; null where there are no media, as in a test. */
const onPaper = () => (typeof matchMedia === "function" ? matchMedia("print") : null);

function follow(told: () => void): () => void {
  const paper = onPaper();
  const begins = () => {
    printing = true;
    told();
  };
  const ends = () => {
    printing = false;
    told();
  };
  addEventListener("beforeprint", begins);
  addEventListener("afterprint", ends);
  paper?.addEventListener("change", told);
  return () => {
    removeEventListener("beforeprint", begins);
    removeEventListener("afterprint", ends);
    paper?.removeEventListener("change", told);
  };
}

/** Whether what is shown is put on paper, where nothing can be scrolled to. */
export const usePrinting = () =>
  useSyncExternalStore(follow, () => printing || (onPaper()?.matches ?? false));
