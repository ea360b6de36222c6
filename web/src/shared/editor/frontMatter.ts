/** Where the front matter of a document ends, behind its closing line; 0 where there
 *  is none. */
export function frontMatter(source: string): number {
  return /^---[ \t]*\r?\n(?:[\s\S]*?\r?\n)?---[ \t]*(?:\r?\n|$)/.exec(source)?.[0].length ?? 0;
}
