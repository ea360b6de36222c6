/** A number of things, in words: 1 page, 2 pages. */
export const counted = (n: number, what: string) =>
  `${n.toLocaleString("en")} ${what}${n === 1 ? "" : "s"}`;

const units: [Intl.RelativeTimeFormatUnit, number][] = [
  ["day", 86_400],
  ["hour", 3_600],
  ["minute", 60],
];

/** How long ago a moment was, in words; the day where that is long. */
export function ago(at: string, now = Date.now()): string {
  const seconds = (now - Date.parse(at)) / 1000;
  if (seconds > 14 * 86_400)
    return `on ${new Date(at).toLocaleDateString("en", { dateStyle: "long" })}`;
  const words = new Intl.RelativeTimeFormat("en", { numeric: "auto" });
  for (const [unit, of] of units)
    if (seconds >= of) return words.format(-Math.floor(seconds / of), unit);
  return "just now";
}
