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

const entry = "shelf-tab";
const lockOf = (tab: string) => `shelf-tab-${tab}`;

// Where the page is not of a secure origin there are none.
const locksHere = () => (navigator as { locks?: LockManager }).locks;

/** The name under which this tab last kept what it had not saved. A tab that was duplicated
 *  or opened by another begins with that one's name. */
export function formerName(): string {
  return sessionStorage.getItem(entry) ?? newName();
}

function newName(): string {
  const name = Math.random().toString(36).slice(2);
  sessionStorage.setItem(entry, name);
  return name;
}

const patience = 500; // milliseconds; the document before a reload lets go sooner

let claimed: Promise<string> | undefined;

/** The name of this tab, the same after a reload and no other living tab's: it is held by a
 *  lock, and a tab that finds its former name held takes a new one. */
export function ownName(former: string): Promise<string> {
  const locks = locksHere();
  if (!locks) return Promise.resolve(former);
  const claim = (name: string, options: LockOptions) =>
    new Promise<string>((got, refused) => {
      // The lock is held until the tab is gone.
      locks
        .request(lockOf(name), options, () => {
          got(name);
          return new Promise(() => undefined);
        })
        .catch(refused);
    });
  claimed ??= claim(former, { signal: AbortSignal.timeout(patience) }).catch(() =>
    claim(newName(), {}),
  );
  return claimed;
}

/** Keeps the unsaved edits of a tab through a reload, a closed tab and a crash. */
export function keep(tab: string, all: Record<string, Buffer>) {
  try {
    if (Object.keys(all).length === 0) localStorage.removeItem(prefix + tab);
    else
      localStorage.setItem(
        prefix + tab,
        JSON.stringify({ tab, at: Date.now(), all } satisfies Kept),
      );
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
    const whole =
      kept !== null &&
      typeof kept.tab === "string" &&
      typeof kept.at === "number" &&
      typeof kept.all === "object" &&
      Object.values(kept.all).every(
        (b) => typeof b.text === "string" && typeof b.base === "string",
      );
    return whole ? kept : null;
  } catch {
    return null;
  }
}

/** The names of the tabs that live. A browser without locks knows of no other tab. */
export async function liveTabs(tab: string): Promise<Set<string>> {
  const held = (await locksHere()?.query())?.held ?? [];
  return new Set([tab, ...held.map((l) => (l.name ?? "").replace(lockOf(""), ""))]);
}
