/** How well black and white text can be read on a colour, by WCAG 2 contrast; ""
 *  for what is not written as #rgb or #rrggbb. */
export function contrast(colour: string): string {
  const l = luminance(colour);
  if (l === null) return "";
  const black = (l + 0.05) / 0.05;
  const white = 1.05 / (l + 0.05);
  const [name, ratio] = black >= white ? ["black", black] : ["white", white];
  return `${name} text on it has contrast ${ratio.toFixed(1)}${ratio < 4.5 ? ", too little" : ""}`;
}

/** The relative luminance of a colour, 0 for black to 1 for white. */
function luminance(colour: string): number | null {
  const short = /^#([0-9a-f])([0-9a-f])([0-9a-f])$/i.exec(colour);
  const long = /^#([0-9a-f]{2})([0-9a-f]{2})([0-9a-f]{2})$/i.exec(colour);
  const parts = short ? short.slice(1).map((c) => c + c) : long?.slice(1);
  if (!parts) return null;
  const [r = 0, g = 0, b = 0] = parts.map((p) => {
    const c = parseInt(p, 16) / 255;
    return c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4;
  });
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
}
