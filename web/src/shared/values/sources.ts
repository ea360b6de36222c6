import type { FieldPrecedence, Source } from "../../api/client";

/** What a document is called, by its path. */
type Called = (path: string) => string;

/** What brought a value, in words: the rule main-header, the block's default. */
export function sourceWords(r: Source, called: Called): string {
  switch (r.source) {
    case "override":
      return "this page, for this place";
    case "argument":
      return "the call in this page's text";
    case "placed":
      return r.doc.startsWith("rules/")
        ? `the rule ${called(r.doc)}`
        : r.doc.startsWith("layouts/")
          ? `the layout ${called(r.doc)}`
          : r.doc.startsWith("blocks/")
            ? `the block ${called(r.doc)}`
            : r.doc;
    case "page":
      return "a field of this page";
    case "site":
      return "a field of the site";
    case "default":
      return "the block's default";
  }
}

/** What a field would show without what the page says for this place: a value and what
 *  brings it. */
export function inherited(f: FieldPrecedence, called: Called): { text: string; from: string } {
  const next = f.sources.find((r) => r.set && r.source !== "override" && r.source !== "argument");
  return next ? { text: next.text, from: sourceWords(next, called) } : { text: "", from: "" };
}

/** Where a document is opened in the tool, "" where it has no place of its own. */
export function placeOf(site: string, doc: string, field: string): string {
  const name = doc.replace(/^[a-z]+\//, "").replace(/\.[a-z]+$/, "");
  if (doc.startsWith("blocks/")) return `/${site}/blocks/${name}${field ? "?part=fields" : ""}`;
  if (doc.startsWith("rules/")) return `/${site}/rules/${name}`;
  if (doc.startsWith("layouts/")) return `/${site}/layouts/${name}?tab=source`;
  if (doc.startsWith("pages/")) return `/${site}/pages?doc=${encodeURIComponent(doc)}&tab=source`;
  return "";
}

/** Where a cell of the table has its value from. */
export function saySource(source: string, doc: string, called: Called): string {
  return source === "none"
    ? "nothing says it"
    : `from ${sourceWords({ source: source as Source["source"], doc, set: true, text: "", line: 0, column: 0, bad: "", unshown: "" }, called)}`;
}
