import type { ReactNode } from "react";

/** The bar that says what would happen, with what one can do about it. */
export function Say({ tone, children, actions }: { tone: "quiet" | "would" | "bad"; children: ReactNode; actions?: ReactNode }) {
  return (
    <div className={`say ${tone}`}>
      <div role="status" aria-live="polite">{children}</div>
      {actions && <div className="end">{actions}</div>}
    </div>
  );
}

/** An impact's sentence, its first part strong. before is how much was broken already,
 *  which is said where nothing new breaks. */
export function Sentence({ text, before = 0 }: { text: string; before?: number }) {
  const i = text.indexOf(". ");
  if (i < 0) return <b>{text}</b>;
  const rest = text.slice(i + 2);
  const calm = rest.endsWith("Nothing breaks.");
  if (calm && before > 0) return <span><b>{text.slice(0, i + 1)}</b> {rest.slice(0, -"Nothing breaks.".length)}Nothing new breaks; {before} {before === 1 ? "was" : "were"} broken before.</span>;
  return (
    <span>
      <b>{text.slice(0, i + 1)}</b> {calm ? rest.slice(0, -"Nothing breaks.".length) : rest}
      {calm && <span className="soft">Nothing breaks.</span>}
    </span>
  );
}
