/** How large a rendering is: as large as its place takes whole, as it is, or twice that. */
export type Zoom = "fit" | "100" | "200";

/** What the browser has kept, or the real size. */
export const zoomOf = (kept: string | null): Zoom =>
  kept === "fit" || kept === "200" ? kept : "100";

/** By how much a page of a width is scaled in a box. */
export function scaleOf(zoom: Zoom, width: number, box: number): number {
  if (zoom === "fit") return Math.min(1, box / width || 1);
  return zoom === "200" ? 2 : 1;
}

/** How far a box is scrolled to the side so that what is in question is seen: in its middle where it
 *  has room there, else from its beginning. */
export function sideways(
  lit: { left: number; width: number },
  scale: number,
  box: number,
  width: number,
): number {
  const left = lit.left * scale;
  const room = box - lit.width * scale;
  const most = Math.max(0, width * scale - box);
  return Math.round(Math.max(0, Math.min(most, room > 0 ? left - room / 2 : left)));
}

/** Whether less than half of what is in question is seen, or could be, in a box that is scrolled so
 *  far to the side. */
export function aside(
  lit: { left: number; width: number },
  scale: number,
  box: number,
  scrolled: number,
): boolean {
  const left = lit.left * scale;
  const wide = lit.width * scale;
  const seen = Math.min(left + wide, scrolled + box) - Math.max(left, scrolled);
  return seen < Math.min(wide, box) / 2;
}
