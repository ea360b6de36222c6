/** Edits that the server is still making of a text. */
let count = 0;
let waiting: (() => void)[] = [];

export function begin() {
  count++;
}

export function end() {
  if (--count > 0) return;
  for (const go of waiting) go();
  waiting = [];
}

/** Comes when no edit is under way any more; null where none is. */
export function settled(): Promise<void> | null {
  return count === 0 ? null : new Promise((go) => waiting.push(go));
}
