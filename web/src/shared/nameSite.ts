/** A name that a site can have, of what it is called. */
export function nameOf(title: string): string {
  const name = title
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-+|-+$/g, "")
    .slice(0, 40)
    .replace(/-+$/, "");
  return /^[a-z]/.test(name) ? name : name ? `site-${name}` : "site";
}

/** A name, or the first of name-2, name-3 … that none of some have. */
export function freeSite(name: string, taken: string[]): string {
  let free = name;
  for (let n = 2; taken.includes(free); n++) free = `${name}-${n}`;
  return free;
}
