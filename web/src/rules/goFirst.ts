import type { RuleReading } from "../api/client";
import type { KeyValue } from "../shared/useTextEdits";

/** How many pages a rule is made to name one by one at most. */
const most = 50;

/** What makes a rule that loses every page that it could take go before those that it loses
 *  to: a higher order and, where more specific rules decide, the pages by name. null where
 *  it does not lose, or loses too many pages to name them. pages are the addresses in the
 *  order of the reach. */
export function goFirst(reading: RuleReading, pages: string[]): KeyValue[] | null {
  const letters = Array.from(reading.reach);
  if (reading.outranked.length === 0 || letters.some((l) => l === "t" || l === "d")) return null;
  const out: KeyValue[] = [];
  if (reading.outranked.some((r) => r.decides === "specificity")) {
    const lost = letters.flatMap((l, i) =>
      l === "l" && pages[i] !== undefined ? [`page:${pages[i]}`] : [],
    );
    if (lost.length > most) return null;
    out.push({
      keys: ["on"],
      value: [...reading.rule.on, ...lost.filter((t) => !reading.rule.on.includes(t))],
    });
  }
  const order = Math.max(...reading.outranked.map((r) => r.order)) + 1;
  if (order > reading.rule.order) out.push({ keys: ["order"], value: order });
  return out;
}
