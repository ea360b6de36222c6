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

/** An impact's sentence, its first part strong. */
export function Sentence({ text }: { text: string }) {
  const i = text.indexOf(". ");
  if (i < 0) return <b>{text}</b>;
  const rest = text.slice(i + 2);
  const calm = rest.endsWith("Nothing breaks.");
  return (
    <span>
      <b>{text.slice(0, i + 1)}</b> {calm ? rest.slice(0, -"Nothing breaks.".length) : rest}
      {calm && <span className="soft">Nothing breaks.</span>}
    </span>
  );
}
