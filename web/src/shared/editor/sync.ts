/** What differs between two texts, as one replacement; null where nothing does. */
export function between(
  before: string,
  after: string,
): { from: number; to: number; insert: string } | null {
  if (before === after) return null;
  const most = Math.min(before.length, after.length);
  let from = 0;
  while (from < most && before[from] === after[from]) from++;
  let tail = 0;
  while (tail < most - from && before[before.length - 1 - tail] === after[after.length - 1 - tail])
    tail++;
  return { from, to: before.length - tail, insert: after.slice(from, after.length - tail) };
}

/** The texts that an editor has told of and that have not come back to it yet.
 *  What comes back late must not overwrite what has been typed since. */
export class Sent {
  private texts: string[] = [];

  add(text: string) {
    this.texts.push(text);
    if (this.texts.length > 200) this.texts.shift();
  }

  /** Reports whether a text is one that comes back; it and those before it are then
   *  forgotten. */
  takes(text: string): boolean {
    const i = this.texts.indexOf(text);
    if (i < 0) return false;
    this.texts.splice(0, i + 1);
    return true;
  }

  clear() {
    this.texts = [];
  }
}
