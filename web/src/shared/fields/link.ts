/** A link's parts. */
export interface Link {
  to: string;
  label: string;
  newTab: boolean;
}

/** Reads a link as fields hold it: an address, or {to, label, new_tab} as JSON. */
export function readLink(value: string): Link {
  if (value.trimStart().startsWith("{")) {
    try {
      const v = JSON.parse(value) as { to?: string; label?: string; new_tab?: boolean };
      return { to: v.to ?? "", label: v.label ?? "", newTab: v.new_tab ?? false };
    } catch {
      return { to: value, label: "", newTab: false };
    }
  }
  return { to: value, label: "", newTab: false };
}

/** Writes a link: an address alone where it has nothing else. */
export function writeLink(l: Link): string {
  if (!l.label && !l.newTab) return l.to;
  return JSON.stringify({
    to: l.to,
    ...(l.label && { label: l.label }),
    ...(l.newTab && { new_tab: true }),
  });
}
