import { HighlightStyle, syntaxHighlighting } from "@codemirror/language";
import { EditorState, RangeSetBuilder, type Extension } from "@codemirror/state";
import {
  Decoration,
  EditorView,
  ViewPlugin,
  type DecorationSet,
  type ViewUpdate,
} from "@codemirror/view";
import { tags } from "@lezer/highlight";
import { frontMatter } from "./frontMatter";

const tag = Decoration.mark({ class: "shelf-tag" });
const word = Decoration.mark({ class: "shelf-word" });
const text = Decoration.mark({ class: "shelf-text" });
const note = Decoration.mark({ class: "shelf-note" });
const front = Decoration.mark({ class: "shelf-front" });

export interface Piece {
  from: number;
  to: number;
  kind: "tag" | "word" | "text" | "note";
}

/** Finds the pieces of the shelf language in a text: tags, the words that begin
 *  them, quoted texts and comments. */
export function pieces(source: string): Piece[] {
  const out: Piece[] = [];
  for (let i = source.indexOf("@{"); i >= 0; i = source.indexOf("@{", i)) {
    if (source[i - 1] === "@") {
      i += 2;
      continue;
    }
    if (source[i + 2] === "#") {
      const end = source.indexOf("}", i);
      const to = end < 0 ? source.length : end + 1;
      out.push({ from: i, to, kind: "note" });
      i = to;
      continue;
    }
    const start = i;
    let at = i + 2;
    const head = /^[/=]?[a-z][a-z0-9._-]*/.exec(source.slice(at, at + 80))?.[0] ?? "";
    const inner: Piece[] = [];
    if (head) inner.push({ from: at, to: at + head.length, kind: "word" });
    at += head.length;
    while (at < source.length && source[at] !== "}") {
      const c = source[at];
      if (c === '"' || c === "'" || c === "`") {
        const from = at++;
        while (at < source.length && source[at] !== c) at += source[at] === "\\" ? 2 : 1;
        inner.push({ from, to: Math.min(at + 1, source.length), kind: "text" });
      } else if (c === "@" && source[at + 1] === "{") break;
      at++;
    }
    const to = Math.min(source[at] === "}" ? at + 1 : at, source.length);
    out.push({ from: start, to, kind: "tag" }, ...inner);
    i = Math.max(to, start + 2);
  }
  return out;
}

const marks = { tag, word, text, note };

function decorate(state: EditorState): DecorationSet {
  const builder = new RangeSetBuilder<Decoration>();
  const source = state.doc.toString();
  const end = frontMatter(source);
  if (end) builder.add(0, end, front);
  for (const p of pieces(source)) if (p.from >= end) builder.add(p.from, p.to, marks[p.kind]);
  return builder.finish();
}

const plugin = ViewPlugin.fromClass(
  class {
    decorations: DecorationSet;
    constructor(view: EditorView) {
      this.decorations = decorate(view.state);
    }
    update(u: ViewUpdate) {
      if (u.docChanged) this.decorations = decorate(u.state);
    }
  },
  { decorations: (v) => v.decorations },
);

const colours = HighlightStyle.define([
  { tag: [tags.tagName, tags.angleBracket, tags.keyword], color: "var(--code-tag)" },
  { tag: [tags.attributeName, tags.propertyName], color: "var(--code-name)" },
  { tag: [tags.attributeValue, tags.string, tags.number], color: "var(--code-text)" },
  { tag: tags.comment, color: "var(--soft)", fontStyle: "italic" },
]);

const look = EditorView.theme({
  "&": { backgroundColor: "transparent", color: "var(--ink)" },
  ".cm-content": { fontFamily: "var(--mono)", caretColor: "var(--ink)", lineHeight: "1.55" },
  ".cm-gutters": {
    backgroundColor: "transparent",
    color: "var(--soft)",
    border: "0",
    fontFamily: "var(--mono)",
  },
  ".cm-activeLine, .cm-activeLineGutter": { backgroundColor: "transparent" },
  ".cm-cursor": { borderLeftColor: "var(--ink)" },
  ".cm-selectionBackground, &.cm-focused .cm-selectionBackground": {
    backgroundColor: "var(--mortar) !important",
  },
  ".shelf-tag, .shelf-tag *": { color: "var(--sea-ink) !important" },
  ".shelf-word": { fontWeight: "600" },
  ".shelf-text, .shelf-text *": { color: "var(--code-text) !important" },
  ".shelf-note, .shelf-note *": { color: "var(--soft) !important", fontStyle: "italic" },
  ".shelf-front, .shelf-front *": { color: "var(--soft) !important" },
  ".cm-lintRange-error": {
    backgroundImage: "none",
    borderBottom: "2px solid var(--crimson)",
    backgroundColor: "var(--clay-wash)",
  },
  ".cm-tooltip": {
    background: "var(--paper)",
    color: "var(--ink)",
    border: "1px solid var(--crimson)",
  },
  ".shelf-help": { font: "13px var(--body)", padding: "8px 10px", maxWidth: "380px" },
  ".shelf-help p": { margin: "2px 0 6px" },
  ".cm-tooltip.cm-tooltip-hover, .cm-tooltip.cm-tooltip-autocomplete, .cm-tooltip.cm-completionInfo":
    { borderColor: "var(--mortar)" },
  ".cm-tooltip-autocomplete ul li[aria-selected]": {
    background: "var(--clay-wash) !important",
    color: "var(--ink) !important",
  },
  ".cm-completionDetail": { color: "var(--soft)", marginLeft: "10px", fontStyle: "normal" },
  ".shelf-folded": {
    font: "12px var(--body)",
    color: "var(--soft)",
    background: "var(--joint)",
    border: "0",
    borderRadius: "3px",
    margin: "0 8px",
    padding: "0 8px",
    cursor: "pointer",
  },
  ".cm-changedLine, .cm-changedText, .cm-deletedText": { background: "none !important" },
  "&.cm-merge-a .cm-changedLine": { backgroundColor: "var(--joint) !important" },
  "&.cm-merge-b .cm-changedLine": { backgroundColor: "var(--clay-wash) !important" },
  "&.cm-merge-a .cm-changedText": { borderBottom: "2px dashed var(--ink)" },
  "&.cm-merge-b .cm-changedText": { borderBottom: "2px solid var(--clay)" },
  "&.cm-merge-a .cm-changedLineGutter": { background: "var(--ink)" },
  "&.cm-merge-b .cm-changedLineGutter": { background: "var(--clay)" },
  ".cm-collapsedLines": {
    background: "var(--plaster) !important",
    color: "var(--soft)",
    fontFamily: "var(--body)",
    padding: "3px 10px",
    borderBlock: "1px solid var(--joint)",
  },
  ".cm-collapsedLines::before, .cm-collapsedLines::after": { content: '""  !important' },
  ".cm-lint-marker-error": {
    content: '""',
    width: "9px",
    height: "9px",
    margin: "4px 0 0 2px",
    background: "var(--crimson)",
  },
  ".cm-panels": { background: "var(--plaster)", color: "var(--ink)" },
});

/** Highlighting of the shelf language over that of HTML. */
export const shelfLanguage: Extension = [plugin, syntaxHighlighting(colours), look];
