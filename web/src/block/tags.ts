/** Where something can be inserted at a place of a text: there, or behind the tag of the
 *  shelf language within which the place lies. */
export function behindTag(text: string, at: number): number {
  for (let from = text.indexOf("@{"); from >= 0 && from < at;) {
    if (text[from - 1] === "@") {
      // an @{ that is meant as it stands
      from = text.indexOf("@{", from + 2);
      continue;
    }
    const end = tagEnd(text, from);
    if (end < 0) return at;
    if (end > at) return end;
    from = text.indexOf("@{", end);
  }
  return at;
}

/** Where a tag ends that begins at a place; -1 where it never does. */
function tagEnd(text: string, from: number): number {
  let depth = 0;
  for (let i = from + 2; i < text.length; i++) {
    const c = text[i];
    if (c === '"' || c === "'") {
      i = quoteEnd(text, i);
      if (i < 0) return -1;
    } else if (c === "{" || c === "[") depth++;
    else if (c === "]") depth--;
    else if (c === "}" && depth-- === 0) return i + 1;
  }
  return -1;
}

function quoteEnd(text: string, from: number): number {
  for (let i = from + 1; i < text.length; i++) {
    if (text[i] === "\\") i++;
    else if (text[i] === text[from]) return i;
  }
  return -1;
}
