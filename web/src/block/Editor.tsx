import { css } from "@codemirror/lang-css";
import { html } from "@codemirror/lang-html";
import { javascript } from "@codemirror/lang-javascript";
import { lintGutter, setDiagnostics, type Diagnostic } from "@codemirror/lint";
import { EditorView } from "@codemirror/view";
import CodeMirror, { type ReactCodeMirrorRef } from "@uiw/react-codemirror";
import { useEffect, useMemo, useRef } from "react";
import type { Finding } from "../api/client";
import { shelfLanguage } from "./language";

/** The source editor, with the problems marked where they stand. */
export default function Editor({ path, text, change, problems, label }: { path: string; text: string; change: (t: string) => void; problems: Finding[]; label: string }) {
  const ref = useRef<ReactCodeMirrorRef>(null);
  const extensions = useMemo(() => {
    const language = path.endsWith(".css") ? css() : path.endsWith(".js") ? javascript() : html({ autoCloseTags: false });
    return [language, shelfLanguage, lintGutter(), EditorView.lineWrapping, EditorView.contentAttributes.of({ "aria-label": label, tabindex: "0" })];
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
  }, [problems, path, text]);
  return (
    <CodeMirror ref={ref} value={text} onChange={change} extensions={extensions} height="100%" theme="none"
      basicSetup={{ foldGutter: false, highlightActiveLine: false, highlightActiveLineGutter: false, autocompletion: false, syntaxHighlighting: false }} />
  );
}
