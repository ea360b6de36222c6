/** An edit that is not saved: the text, and the hash of what it began from. */
export interface Buffer {
  text: string;
  base: string;
}

/** The unsaved edits of a tab, as they are kept in the browser. */
export interface Kept {
  tab: string;
  at: number; // when, in milliseconds
  all: Record<string, Buffer>;
}

const prefix = "shelf-unsaved-";

/** This tab's name, the same after a reload. */
export function tabName(): string {
  let name = sessionStorage.getItem("shelf-tab");
  if (!name) {
    name = Math.random().toString(36).slice(2);
    sessionStorage.setItem("shelf-tab", name);
  }
  return name;
}

/** Keeps the unsaved edits of a tab through a reload, a closed tab and a crash. */
export function keep(tab: string, all: Record<string, Buffer>) {
  try {
    if (Object.keys(all).length === 0) localStorage.removeItem(prefix + tab);
    else localStorage.setItem(prefix + tab, JSON.stringify({ tab, at: Date.now(), all } satisfies Kept));
  } catch {
    // Too large to be kept; it still stands in memory.
  }
}

export function keptOf(tab: string): Kept | null {
  return read(localStorage.getItem(prefix + tab));
}

/** What every tab has kept. */
export function allKept(): Kept[] {
  const out: Kept[] = [];
  for (let i = 0; i < localStorage.length; i++) {
    const key = localStorage.key(i);
    const kept = key?.startsWith(prefix) ? keptOf(key.slice(prefix.length)) : null;
    if (kept) out.push(kept);
  }
  return out.sort((a, b) => b.at - a.at);
}

export function forget(tab: string) {
  localStorage.removeItem(prefix + tab);
}

function read(text: string | null): Kept | null {
  try {
    const kept = JSON.parse(text ?? "null") as Kept | null;
    const whole = kept !== null && typeof kept.tab === "string" && typeof kept.at === "number" && typeof kept.all === "object" && Object.values(kept.all).every((b) => typeof b.text === "string" && typeof b.base === "string");
    return whole ? kept : null;
  } catch {
    return null;
  }
}

/** Holds a lock for as long as this tab lives, and tells which others live. A browser
 *  without locks knows of no other tab. */
export async function liveTabs(tab: string): Promise<Set<string>> {
  // Where the page is not of a secure origin there are none.
  const locks = (navigator as { locks?: LockManager }).locks;
  if (!locks) return new Set([tab]);
  void locks.request(`shelf-tab-${tab}`, { ifAvailable: true }, (lock) => (lock ? new Promise(() => undefined) : null));
  const { held = [] } = await locks.query();
  return new Set([tab, ...held.map((l) => (l.name ?? "").replace("shelf-tab-", ""))]);
}
