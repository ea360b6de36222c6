import { useEffect, useState } from "react";

/** So many rows are drawn at once, and so many more in each turn after. */
const atOnce = 16;

/** How many rows of a long list are drawn by now: the first at once, the others a few at a time, so
 *  that no key waits for all of them. */
export function useGrowing(total: number): number {
  const [shown, setShown] = useState(atOnce);
  const more = shown < total;
  useEffect(() => {
    if (!more) return;
    const timer = setTimeout(() => setShown(shown + atOnce));
    return () => clearTimeout(timer);
  }, [more, shown]);
  return Math.min(shown, total);
}
