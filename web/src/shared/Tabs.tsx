/** A row of tabs, moved through with the arrow keys. */
export function Tabs<T extends string>({
  label,
  tabs,
  value,
  choose,
  className,
}: {
  label: string;
  tabs: readonly (readonly [T, string])[];
  value: T;
  choose: (t: T) => void;
  className?: string;
}) {
  const move = (e: React.KeyboardEvent<HTMLDivElement>) => {
    const step = e.key === "ArrowRight" ? 1 : e.key === "ArrowLeft" ? -1 : 0;
    if (!step) return;
    const i = (tabs.findIndex(([t]) => t === value) + step + tabs.length) % tabs.length;
    const next = tabs[i];
    if (!next) return;
    choose(next[0]);
    (e.currentTarget.children[i] as HTMLElement).focus();
  };
  return (
    <div
      role="tablist"
      aria-label={label}
      className={className ?? "tabs"}
      onKeyDown={move}
      style={{ display: "flex", gap: 14 }}
    >
      {tabs.map(([t, title]) => (
        <button
          type="button"
          key={t}
          role="tab"
          className="plain"
          aria-selected={t === value}
          tabIndex={t === value ? 0 : -1}
          onClick={() => choose(t)}
        >
          {title}
        </button>
      ))}
    </div>
  );
}
