/** What waits for a yes and can be taken back before anything that is saved: the newest
 *  last. */
const waiting: (() => void)[] = [];

/** Tells of something that waits; the function that is returned ends that. */
export function waits(takeBack: () => void): () => void {
  waiting.push(takeBack);
  return () => {
    const i = waiting.lastIndexOf(takeBack);
    if (i >= 0) waiting.splice(i, 1);
  };
}

/** Takes back what waits, the newest first; false where nothing does. */
export function takeBackPending(): boolean {
  const last = waiting.at(-1);
  last?.();
  return last !== undefined;
}
