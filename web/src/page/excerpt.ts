/** Text without its tags, those of HTML and of the shelf language, as it reads. */
export function excerptOf(html: string): string {
  const words = unmarked(html)
    .replace(/<[^>]*>/g, " ")
    .replace(/\s+/g, " ")
    .trim();
  return words || html.replace(/\s+/g, " ").slice(0, 80);
}

/** Text without the tags of the shelf language. A tag ends at the brace that closes it: those in quoted
 *  texts and in lists belong to it. What is cut off within a tag ends there. */
function unmarked(text: string): string {
  let out = "";
  let at = 0;
  for (;;) {
    const from = text.indexOf("@{", at);
    if (from < 0) return out + text.slice(at);
    out += text.slice(at, from);
    at = endOf(text, from + 2);
    if (text[from - 1] === "@") out += text.slice(from + 1, at);
  }
}

/** Where a tag ends that is open before a spot. */
function endOf(text: string, from: number): number {
  if (text.startsWith("#", from)) return text.indexOf("}", from) + 1 || text.length;
  let quote = "";
  for (let at = from, depth = 1; at < text.length; at++) {
    const c = text.charAt(at);
    if (quote) {
      if (c === "\\") at++;
      else if (c === quote) quote = "";
    } else if (c === '"' || c === "'" || c === "`") quote = c;
    else if (c === "{") depth++;
    else if (c === "}" && --depth === 0) return at + 1;
  }
  return text.length;
}
