import Button from "@mui/material/Button";
import type { ReactNode } from "react";
import type { Finding, Impact } from "../api/client";
import { Say, Sentence } from "./Say";

interface Props {
  impact: Impact | undefined;
  problems: Pick<Finding, "line" | "message">[];
  /** What was said of the last edit by a form, where that could not be made. */
  wrong?: string | undefined;
  failed?: string | undefined;
  /** Opens the first page in question; not there where none is. */
  look?: (() => void) | undefined;
  drop: () => void;
  savable: boolean;
  save: () => void;
  words?: string;
}

/** What an unsaved edit would do, and what can be done about it. */
export function EditBar(p: Props) {
  const first = p.problems[0];
  const wrong =
    p.wrong ||
    (first && `This cannot be saved yet: line ${first.line}: ${first.message}`) ||
    p.failed;
  const actions = (
    <>
      {p.impact && p.look && (
        <Button variant="outlined" color="secondary" onClick={p.look}>
          Look at them
        </Button>
      )}
      <Button variant="outlined" color="secondary" onClick={p.drop}>
        Discard
      </Button>
      <Button variant="contained" disabled={!p.savable} onClick={p.save} title="Ctrl+S">
        {p.words ?? "Save to draft"}
      </Button>
    </>
  );
  return (
    <Say tone={p.problems.length || p.wrong ? "bad" : "would"} actions={actions}>
      {wrong ? (
        <span className="bad-text">{wrong}</span>
      ) : p.impact ? (
        <Sentence text={p.impact.sentence} />
      ) : (
        "Working out what this changes…"
      )}
    </Say>
  );
}

/** What is said while nothing is unsaved, or why the last edit by a form could not be made. */
export function IdleBar({
  wrong = "",
  words,
  children,
}: {
  wrong?: string;
  words: string;
  children?: ReactNode;
}) {
  return (
    <Say tone={wrong ? "bad" : "quiet"}>
      <span className={wrong ? "bad-text" : "soft"}>{wrong || words}</span>
      {children}
    </Say>
  );
}
