import type { ReactNode } from "react";
import { useErrors } from "../api/queries";

/** The bar that says what would happen, with what one can do about it. */
export function Say({
  tone,
  children,
  actions,
}: {
  tone: "quiet" | "would" | "bad";
  children: ReactNode;
  actions?: ReactNode;
}) {
  return (
    <div className={`say ${tone}`}>
      <div role="status" aria-live="polite">
        {children}
      </div>
      {actions && <div className="end">{actions}</div>}
    </div>
  );
}

/** The sentence of an edit's impact. Where nothing new breaks it says how much of the draft
 *  is broken already. */
export function Sentence({ text }: { text: string }) {
  return <SentenceBefore text={text} before={useErrors()} />;
}

const none = "No new errors.";

/** An impact's sentence, its first part strong. before is how much was broken already. */
export function SentenceBefore({ text, before }: { text: string; before: number }) {
  const i = text.indexOf(". ");
  if (i < 0) return <b>{text}</b>;
  const rest = text.slice(i + 2);
  const calm = rest.endsWith(none);
  if (calm && before > 0)
    return (
      <span>
        <b>{text.slice(0, i + 1)}</b> {rest.slice(0, -none.length)}No new errors; {before} from
        before.
      </span>
    );
  return (
    <span>
      <b>{text.slice(0, i + 1)}</b> {calm ? rest.slice(0, -none.length) : rest}
      {calm && <span className="soft">{none}</span>}
    </span>
  );
}
