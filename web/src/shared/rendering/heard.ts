/** What a preview may say. Whatever a page's own script sends comes the same way, so
 *  nothing that is heard can change anything. */
export type Heard =
  | { shelf: "ready" }
  | { shelf: "scrolled"; top: number; lit: number | null }
  | { shelf: "lit" | "changed"; left: number; width: number }
  | { shelf: "sketch"; signs: number[] }
  | { shelf: "key"; key: string; ctrl: boolean }
  | { shelf: "point"; addresses: string[]; blocks: string[] }
  | { shelf: "own"; at: number; tag: string; more: boolean }
  | { shelf: "follow"; href: string }
  | ({ shelf: "fault" } & Fault);

/** Where a behaviour fails in a preview: of which block (none where only copies have that
 *  revision), where in its file, and at which placement, where that is known. */
export interface Fault {
  block: string;
  line: number;
  column: number;
  message: string;
  address: string;
}

/** Find, close, previous, next, help. */
const keys = ["ctrl+k", "Escape", "[", "]", "?"];

const longest = 4000;
const most = 5000; // elements of a page in its sketch
const text = (v: unknown): v is string => typeof v === "string" && v.length <= longest;
const texts = (v: unknown): v is string[] => Array.isArray(v) && v.length <= 200 && v.every(text);
const finite = (v: unknown): v is number => typeof v === "number" && Number.isFinite(v);
const count = (v: unknown): v is number => typeof v === "number" && Number.isFinite(v) && v >= 0;

/** Reads a message of a preview; null where it is none that a preview sends. */
export function heard(data: unknown): Heard | null {
  if (typeof data !== "object" || data === null) return null;
  const m = data as Record<string, unknown>;
  switch (m.shelf) {
    case "ready":
      return { shelf: "ready" };
    case "scrolled":
      return count(m.top)
        ? { shelf: "scrolled", top: m.top, lit: finite(m.lit) ? m.lit : null }
        : null;
    case "lit":
    case "changed":
      return finite(m.left) && count(m.width)
        ? { shelf: m.shelf, left: m.left, width: m.width }
        : null;
    case "sketch":
      return Array.isArray(m.signs) && m.signs.length <= most && m.signs.every(finite)
        ? { shelf: "sketch", signs: m.signs }
        : null;
    case "key": {
      const ctrl = m.ctrl === true;
      return text(m.key) && keys.includes(ctrl ? `ctrl+${m.key}` : m.key)
        ? { shelf: "key", key: m.key, ctrl }
        : null;
    }
    case "point":
      return texts(m.addresses) && texts(m.blocks)
        ? {
            shelf: "point",
            addresses: m.addresses,
            blocks: m.blocks.map((b) => b.split(":")[0] ?? ""),
          }
        : null;
    case "own":
      return count(m.at) && Number.isInteger(m.at) && text(m.tag)
        ? { shelf: "own", at: m.at, tag: m.tag, more: m.more === true }
        : null;
    case "fault":
      return text(m.block) && count(m.line) && count(m.column) && text(m.message) && text(m.address)
        ? {
            shelf: "fault",
            block: m.block,
            line: m.line,
            column: m.column,
            message: m.message,
            address: m.address,
          }
        : null;
    case "follow":
      return text(m.href) && m.href !== "" ? { shelf: "follow", href: m.href } : null;
  }
  return null;
}
