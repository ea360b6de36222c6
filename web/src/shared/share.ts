/** How much of the width the left one of two panels can have, in per cent. */
const least = 20;
const most = 80;

/** A share within what is possible, in whole per cents. */
export const moved = (to: number) => Math.round(Math.max(least, Math.min(most, to)));

/** What the browser has kept, or what is usual. */
export function shareOf(kept: string | null, usual: number): number {
  const n = Number(kept ?? NaN);
  return Number.isFinite(n) ? moved(n) : usual;
}
