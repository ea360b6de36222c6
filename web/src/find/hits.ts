import type { Entry, Overview, Review } from "../api/client";
import type { WordsFound } from "../api/words";
import { placeOf } from "../shared/placeOf";

/** Something that the finder leads to, or does. */
export interface Hit {
  id: string;
  kind: string;
  title: string;
  detail: string;
  to?: string;
  act?: () => void;
}

/** A command of the bench, with the key that gives it too. */
export interface Command {
  name: string;
  key?: string;
  act: () => void;
}

/** What else a site holds, as far as it is known. */
export interface Known {
  entries: Entry[];
  rules: { name: string; title: string; block: string; region: string }[];
  layouts: { name: string; title: string }[];
  menus: { name: string; title: string }[];
  files: { path: string; url: string }[];
  review: Review | undefined;
}

const places: [path: string, name: string, words: string][] = [
  ["words", "Find and replace", "texts and values of all pages"],
  ["rules", "Rules", "which block stands where"],
  ["roll-out", "Put on many pages", "or take off"],
  ["pages?tab=pages", "New page", "all pages"],
  ["review", "Review", "publish"],
  ["reference", "Reference", "how everything is called"],
  ["files", "Files", "pictures and others"],
  ["site", "Site", "its name, address, values"],
  ["parts", "Parts", "into another site, or of one"],
  ["checks", "Checks", "findings"],
];

const parts = [
  ["placements", "Placements"],
  ["values", "Values"],
  ["manage", "Manage"],
  ["history", "History"],
];

/** Everything that has a name. */
export function named(
  o: Overview,
  known: Known,
  commands: Command[],
  newRule: (block: string) => void,
): Hit[] {
  const at = `/${o.name}`;
  const hit = (kind: string, title: string, detail: string, to: string): Hit => ({
    id: `${kind} ${to}`,
    kind,
    title,
    detail,
    to: to.startsWith("/") ? to : `${at}/${to}`,
  });
  const doc = (kind: string) => (d: { title: string; path: string; doc: string }) =>
    hit(kind, d.title, d.path, `pages?doc=${encodeURIComponent(d.doc)}`);
  return [
    ...o.blocks.map((b) => hit("block", b.title, b.name, `blocks/${b.name}`)),
    // Their parts are found by naming both.
    ...o.blocks.flatMap((b) =>
      parts.map(([tab, name]) =>
        hit("part of a block", `${b.title}: ${name}`, b.name, `blocks/${b.name}?tab=${tab}`),
      ),
    ),
    ...o.blocks.map((b) => ({
      id: `new rule ${b.name}`,
      kind: "part of a block",
      title: `${b.title}: New rule`,
      detail: b.name,
      act: () => newRule(b.name),
    })),
    ...known.entries
      .filter((e) => e.kind === "scripted")
      .map((e) => hit("script", e.title, e.name, `scripts/${e.name}`)),
    ...o.pages.map(doc("page")),
    ...o.drafts.map(doc("draft of a page")),
    ...known.rules.map((r) =>
      hit(
        "rule",
        r.title || r.name,
        `${r.block} into ${r.region}${r.title && `, ${r.name}`}`,
        `rules/${r.name}`,
      ),
    ),
    ...known.layouts.map((l) => hit("layout", l.title, l.name, `layouts/${l.name}`)),
    ...known.menus.map((m) => hit("menu", m.title, m.name, `menus/${m.name}`)),
    ...known.files.map((f) =>
      hit(
        "file",
        f.path.slice(f.path.lastIndexOf("/") + 1),
        f.url,
        `files?path=${encodeURIComponent(f.path)}`,
      ),
    ),
    ...places.map(([path, name, words]) => hit("place", name, words, path)),
    hit("place", "All sites", "new, bring, delete", "/?all"),
    ...commands.map((c) => ({
      id: `command ${c.name}`,
      kind: "command",
      title: c.name,
      detail: c.key ?? "",
      act: c.act,
    })),
    ...(known.review?.records ?? []).map((e) => ({
      ...hit("edit", e.title, when(e.at), "review"),
      id: `edit ${e.id}`,
    })),
    ...(known.review?.releases ?? []).map((r) => ({
      ...hit("release", `Release ${r.number}`, `${r.title}, ${when(r.at)}`, "review"),
      id: `release ${r.number}`,
    })),
  ];
}

const when = (at: string) =>
  new Date(at).toLocaleString([], { dateStyle: "medium", timeStyle: "short" });

/** Those of which some words say all that is typed; those whose title begins with it first. */
export function matching(all: Hit[], text: string, most: number): Hit[] {
  const typed = text.trim().toLowerCase();
  const words = typed.split(/\s+/).filter(Boolean);
  const found = all.filter((h) => {
    // One word names the block, not each of its parts.
    if (h.kind === "part of a block" && words.length < 2) return false;
    const said = `${h.title} ${h.detail} ${h.kind}`.toLowerCase();
    return words.every((w) => said.includes(w));
  });
  if (!typed) return found.slice(0, most);
  const first = found.filter((h) => h.title.toLowerCase().startsWith(typed));
  return [...first, ...found.filter((h) => !first.includes(h))].slice(0, most);
}

/** Where the site says what is typed, and the way to all of that. */
export function said(o: Overview, text: string, found: WordsFound | undefined): Hit[] {
  const spots = (found?.spots ?? []).map((s): Hit => {
    const place = placeOf(o.name, s.doc, o);
    const around = `${s.before.slice(-24)}${s.match}${s.after.slice(0, 40)}`;
    return {
      id: `text ${s.doc} ${s.n}`,
      kind: s.kind === "text" ? "text" : "value",
      title: around.replace(/\s+/g, " ").trim(),
      detail: `in ${place.title}`,
      to: place.to,
    };
  });
  const total = found?.total ?? 0;
  return [
    ...spots,
    {
      id: "words",
      kind: "place",
      title: `Find and replace “${text.trim()}”`,
      detail: total > 0 ? `${total.toLocaleString("en")} ${total === 1 ? "spot" : "spots"}` : "",
      to: `/${o.name}/words?text=${encodeURIComponent(text.trim())}`,
    },
  ];
}
