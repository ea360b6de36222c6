import { html } from "@codemirror/lang-html";
import { EditorState } from "@codemirror/state";
import { EditorView, lineNumbers } from "@codemirror/view";
import { MergeView } from "@codemirror/merge";
import { useEffect, useRef } from "react";
import { shelfLanguage } from "./language";

/** Two texts side by side, the differences marked and long equal parts folded. */
export default function Diff({
  before,
  after,
  label,
}: {
  before: string;
  after: string;
  label: string;
}) {
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const parent = box.current;
    if (!parent) return;
    const side = (doc: string, name: string) => ({
      doc,
      extensions: [
        html(),
        shelfLanguage,
        lineNumbers(),
        EditorView.lineWrapping,
        EditorState.readOnly.of(true),
        EditorView.editable.of(false),
        EditorView.contentAttributes.of({
          "aria-label": name,
          role: "textbox",
          "aria-readonly": "true",
          tabindex: "0",
        }),
      ],
    });
    const view = new MergeView({
      a: side(before, `${label}: before`),
      b: side(after, `${label}: after`),
      parent,
      collapseUnchanged: { margin: 3, minSize: 6 },
      gutter: true,
    });
    return () => view.destroy();
  }, [before, after, label]);
  return <div ref={box} />;
}
