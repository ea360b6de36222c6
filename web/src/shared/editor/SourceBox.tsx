import { Suspense } from "react";
import type { Finding } from "../../api/client";
import { Sliced } from "../Sliced";
import { Editor } from "./Editor";

interface Props {
  path: string;
  doc: { text: string; loaded: boolean; set: (text: string) => void };
  problems: Finding[];
  fold?: boolean;
  cursor?: (head: number, anchor: number) => void;
}

/** The source of a document, once it and the editor are there. */
export function SourceBox({ path, doc, problems, ...more }: Props) {
  return (
    <div className="code-box">
      <Suspense fallback={<p className="empty">Opening the editor…</p>}>
        {doc.loaded && (
          <Sliced key={path}>
            <Editor
              path={path}
              text={doc.text}
              change={doc.set}
              problems={problems}
              label={`Source of ${path}`}
              {...more}
            />
          </Sliced>
        )}
      </Suspense>
    </div>
  );
}
