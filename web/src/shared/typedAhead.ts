let held: string | null = null;

/** How long a place may be in coming for which keys are held, in ms. */
const patience = 3000;

const hold = (e: KeyboardEvent) => {
  if (held === null || e.key.length !== 1 || e.ctrlKey || e.metaKey || e.altKey) return;
  held += e.key;
  e.preventDefault();
  e.stopPropagation();
};

/** Holds what is typed from now on for the place that is being opened, which takes it. */
export function holdKeys() {
  if (held === null) addEventListener("keydown", hold, true);
  held = "";
  setTimeout(takeKeys, patience);
}

/** What has been typed since, which is held no longer. */
export function takeKeys(): string {
  const typed = held ?? "";
  held = null;
  removeEventListener("keydown", hold, true);
  return typed;
}
