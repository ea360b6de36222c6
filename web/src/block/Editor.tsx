import { css } from "@codemirror/lang-css";
import { html } from "@codemirror/lang-html";
import { javascript } from "@codemirror/lang-javascript";
import { codeFolding, foldEffect, unfoldAll } from "@codemirror/language";
import { lintGutter, setDiagnostics, type Diagnostic } from "@codemirror/lint";
import { EditorView } from "@codemirror/view";
import CodeMirror, { type ReactCodeMirrorRef } from "@uiw/react-codemirror";
import { useEffect, useMemo, useRef } from "react";
import type { Finding } from "../api/client";
import { frontMatter, shelfLanguage } from "./language";

const folding = codeFolding({
  preparePlaceholder: (state, range) => state.doc.lineAt(range.to).number - state.doc.lineAt(range.from).number,
  placeholderDOM: (_, unfold, lines: number) => {
    const button = document.createElement("button");
    button.type = "button";
    button.className = "shelf-folded";
    button.textContent = `${lines} lines: title, fields and their defaults`;
    button.onclick = unfold;
    return button;
  },
});

/** The source editor, with the problems marked where they stand. Where fold is set,
 *  the front matter is folded away at first. */
export default function Editor({ path, text, change, problems, label, fold = false }: { path: string; text: string; change: (t: string) => void; problems: Finding[]; label: string; fold?: boolean }) {
  const ref = useRef<ReactCodeMirrorRef>(null);
  const extensions = useMemo(() => {
    const language = path.endsWith(".css") ? css() : path.endsWith(".js") ? javascript() : html({ autoCloseTags: false });
    return [language, shelfLanguage, folding, lintGutter(), EditorView.lineWrapping, EditorView.contentAttributes.of({ "aria-label": label, tabindex: "0" })];
  }, [path, label]);
  useEffect(() => {
    const view = ref.current?.view;
    if (!view) return;
    const doc = view.state.doc;
    const marks = problems.filter((p) => p.path === path).map((p): Diagnostic => {
      const line = doc.line(Math.min(Math.max(p.line, 1), doc.lines));
      // Columns count characters; the editor counts UTF-16 units.
      const before = Array.from(line.text).slice(0, p.column - 1).join("").length;
      const from = Math.min(line.from + before, line.to);
      return { from, to: Math.max(from, Math.min(from + 2, line.to)), severity: "error", message: p.message };
    });
    view.dispatch(setDiagnostics(view.state, marks));
    const head = frontMatter(doc.toString());
    if (marks.some((m) => m.from < head)) unfoldAll(view);
  }, [problems, path, text]);
  return (
    <CodeMirror ref={ref} value={text} onChange={change} onCreateEditor={(view) => fold && foldFront(view)} extensions={extensions} height="100%" theme="none"
      basicSetup={{ foldGutter: false, highlightActiveLine: false, highlightActiveLineGutter: false, autocompletion: false, syntaxHighlighting: false }} />
  );
}

function foldFront(view: EditorView) {
  const end = frontMatter(view.state.doc.toString());
  if (end === 0) return;
  const from = view.state.doc.line(1).to;
  const to = view.state.doc.lineAt(end - 1).from;
  if (to > from) view.dispatch({ effects: foldEffect.of({ from, to }) });
}
