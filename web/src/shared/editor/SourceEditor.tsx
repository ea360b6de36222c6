import { closeBrackets, closeBracketsKeymap } from "@codemirror/autocomplete";
import { defaultKeymap, history, historyKeymap, indentWithTab } from "@codemirror/commands";
import {
  bracketMatching,
  codeFolding,
  foldEffect,
  foldKeymap,
  indentOnInput,
  LRLanguage,
  unfoldAll,
} from "@codemirror/language";
import {
  diagnosticCount,
  lintGutter,
  lintKeymap,
  setDiagnostics,
  type Diagnostic,
} from "@codemirror/lint";
import { highlightSelectionMatches, search, searchKeymap } from "@codemirror/search";
import { Annotation, Compartment, EditorState, type Extension } from "@codemirror/state";
import { drawSelection, dropCursor, EditorView, keymap, lineNumbers } from "@codemirror/view";
import { parser } from "@lezer/html";
import { useEffect, useEffectEvent, useLayoutEffect, useRef } from "react";
import { flushSync } from "react-dom";
import type { Finding } from "../../api/client";
import { useFields, useReference } from "../../api/queries";
import { useChoices } from "../fields/useChoices";
import { help, offer, type Known } from "./completion";
import { frontMatter } from "./frontMatter";
import { shelfLanguage } from "./language";
import { between, Sent } from "./sync";

const folding = codeFolding({
  preparePlaceholder: (state, range) =>
    state.doc.lineAt(range.to).number - state.doc.lineAt(range.from).number,
  placeholderDOM: (_, unfold, lines: number) => {
    const button = document.createElement("button");
    button.type = "button";
    button.className = "shelf-folded";
    button.textContent = `${lines} lines: title, fields and their defaults`;
    button.onclick = unfold;
    return button;
  },
});

const bench: Extension = [
  lineNumbers(),
  history(),
  drawSelection(),
  dropCursor(),
  indentOnInput(),
  bracketMatching(),
  closeBrackets(),
  highlightSelectionMatches(),
  search({ top: true }),
  keymap.of([
    ...closeBracketsKeymap,
    ...defaultKeymap,
    ...searchKeymap,
    ...historyKeymap,
    ...foldKeymap,
    ...lintKeymap,
    indentWithTab,
  ]),
  shelfLanguage,
  folding,
  lintGutter(),
  EditorView.lineWrapping,
];

// The language of the document is there in two steps: the tags of HTML at once, and what
// stands in them, help and indentation when one has begun to look.
const tags = LRLanguage.define({ name: "html", parser });
const whole = new Compartment();

const fromOutside = Annotation.define<boolean>();

interface Props {
  path: string;
  text: string;
  change: (t: string) => void;
  problems: Finding[];
  label: string;
  fold?: boolean;
  cursor?: (at: number, anchor: number) => void;
}

/** The source editor, with the problems marked where they stand. Where fold is set,
 *  the front matter is folded away at first. */
export function SourceEditor({ path, text, change, problems, label, fold = false, cursor }: Props) {
  const reference = useReference();
  const choices = useChoices();
  const fields = useFields(path.startsWith("blocks/") && path.endsWith(".html") ? text : "");
  const known = useRef<Known>({ entries: [], choices, fields: [] });
  const box = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView>(null);
  useEffect(() => {
    const early = known.current.entries.length === 0; // one may be typing a name already
    known.current = { entries: reference.data?.entries ?? [], choices, fields: fields ?? [] };
    if (early && reference.data && view.current) offer(view.current, known.current);
  }, [reference.data, choices, fields]);
  const sent = useRef(new Sent());
  const typed = useEffectEvent((now: string) => {
    sent.current.add(now);
    flushSync(() => change(now)); // what it changes is asked about at once, not when there is time
  });
  const moved = useEffectEvent((at: number, anchor: number) => cursor?.(at, anchor));
  const begin = useEffectEvent((parent: HTMLElement) => {
    const told = EditorView.updateListener.of((u) => {
      if (u.selectionSet) moved(u.state.selection.main.head, u.state.selection.main.anchor);
      if (!u.docChanged || u.transactions.some((t) => t.annotation(fromOutside))) return;
      typed(u.state.doc.toString());
    });
    const state = EditorState.create({
      doc: text,
      extensions: [
        whole.of(path.endsWith(".html") ? tags : []),
        bench,
        help(() => known.current, path),
        told,
        EditorView.contentAttributes.of({ "aria-label": label, tabindex: "0" }),
      ],
    });
    return new EditorView({ parent, state: fold ? foldFront(state) : state });
  });

  // Before the browser draws the place: what one came for stands there at once.
  useLayoutEffect(() => {
    if (!box.current) return;
    const made = begin(box.current);
    view.current = made;
    const soon = setTimeout(
      () =>
        void import("./languages").then(({ languageOf }) => {
          if (view.current === made)
            made.dispatch({ effects: whole.reconfigure(languageOf(path)) });
        }),
      300,
    );
    return () => {
      clearTimeout(soon);
      made.destroy();
      view.current = null;
    };
  }, [path, label]);

  useEffect(() => {
    const v = view.current;
    if (!v || sent.current.takes(text)) return;
    sent.current.clear();
    const change = between(v.state.doc.toString(), text);
    if (change) v.dispatch({ changes: change, annotations: fromOutside.of(true) });
  }, [text]);

  useEffect(() => {
    const v = view.current;
    if (v)
      mark(
        v,
        problems.filter((p) => p.path === path),
      );
  }, [problems, path, text]);

  return <div ref={box} />;
}

function foldFront(state: EditorState): EditorState {
  const end = frontMatter(state.doc.toString());
  if (end === 0) return state;
  const from = state.doc.line(1).to;
  const to = state.doc.lineAt(end - 1).from;
  return to > from ? state.update({ effects: foldEffect.of({ from, to }) }).state : state;
}

function mark(view: EditorView, problems: Finding[]) {
  if (problems.length === 0 && diagnosticCount(view.state) === 0) return;
  const doc = view.state.doc;
  const marks = problems.map((p): Diagnostic => {
    const line = doc.line(Math.min(Math.max(p.line, 1), doc.lines));
    // Columns count characters; the editor counts UTF-16 units.
    const before = Array.from(line.text)
      .slice(0, p.column - 1)
      .join("").length;
    const to = Math.min(line.from + before + 2, line.to);
    return {
      from: Math.max(Math.min(line.from + before, to - 1), line.from),
      to,
      severity: "error",
      message: p.message,
    };
  });
  view.dispatch(setDiagnostics(view.state, marks));
  const head = frontMatter(doc.toString());
  if (marks.some((m) => m.from < head)) unfoldAll(view);
}
