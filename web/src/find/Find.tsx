import { useMemo, useRef, useState } from "react";
import { useNavigate } from "react-router";
import type { Entry, Overview } from "../api/client";
import { useLayouts, useMenus, useReference, useRules } from "../api/queries";

interface Hit {
  kind: string;
  title: string;
  detail: string;
  to: string;
}

function hits(o: Overview, entries: Entry[], more: Hit[]): Hit[] {
  const at = `/${o.name}`;
  return [
    ...o.blocks.map((b) => ({
      kind: "block",
      title: b.title,
      detail: b.name,
      to: `${at}/blocks/${b.name}`,
    })),
    ...entries
      .filter((e) => e.kind === "scripted")
      .map((e) => ({
        kind: "script",
        title: e.title,
        detail: e.name,
        to: `${at}/scripts/${e.name}`,
      })),
    ...o.pages.map((p) => ({
      kind: "page",
      title: p.title,
      detail: p.path,
      to: `${at}/pages?doc=${encodeURIComponent(p.doc)}`,
    })),
    ...more,
    { kind: "place", title: "Rules", detail: "which block stands where", to: `${at}/rules` },
    { kind: "place", title: "Put on many pages", detail: "or take off", to: `${at}/roll-out` },
    { kind: "place", title: "New page", detail: "all pages", to: `${at}/pages?tab=pages` },
    { kind: "place", title: "Review", detail: "publish", to: `${at}/review` },
    {
      kind: "place",
      title: "Reference",
      detail: "how everything is called",
      to: `${at}/reference`,
    },
    { kind: "place", title: "Files", detail: "pictures and others", to: `${at}/files` },
    { kind: "place", title: "Site", detail: "its name, address, values", to: `${at}/site` },
    {
      kind: "place",
      title: "Parts",
      detail: "into another site, or of one",
      to: `${at}/parts`,
    },
    { kind: "place", title: "All sites", detail: "new, bring, delete", to: "/?all" },
    { kind: "place", title: "Checks", detail: "findings", to: `${at}/checks` },
  ];
}

/** Finds blocks, pages and places by any part of their names. */
export function Find({ overview, close }: { overview: Overview; close: () => void }) {
  const [text, setText] = useState("");
  const [at, setAt] = useState(0);
  const list = useRef<HTMLUListElement>(null);
  const go = useNavigate();
  const { data } = useReference();
  const rules = useRules();
  const layouts = useLayouts();
  const menus = useMenus();
  const more = useMemo<Hit[]>(
    () => [
      ...(rules.data ?? []).map((r) => ({
        kind: "rule",
        title: r.name,
        detail: `${r.block} into ${r.region}`,
        to: `/${overview.name}/rules/${r.name}`,
      })),
      ...(layouts.data ?? []).map((l) => ({
        kind: "layout",
        title: l.title,
        detail: l.name,
        to: `/${overview.name}/layouts/${l.name}`,
      })),
      ...(menus.data ?? []).map((m) => ({
        kind: "menu",
        title: m.title,
        detail: m.name,
        to: `/${overview.name}/menus/${m.name}`,
      })),
    ],
    [rules.data, layouts.data, menus.data, overview.name],
  );
  const found = useMemo(() => {
    const words = text.toLowerCase().split(/\s+/).filter(Boolean);
    return hits(overview, data?.entries ?? [], more)
      .filter((h) =>
        words.every((w) => `${h.title} ${h.detail} ${h.kind}`.toLowerCase().includes(w)),
      )
      .slice(0, 60);
  }, [overview, data, more, text]);
  const choose = (h: Hit | undefined) => {
    if (!h) return;
    close();
    void go(h.to);
  };
  const move = (to: number) => {
    const i = Math.max(0, Math.min(found.length - 1, to));
    setAt(i);
    list.current?.children[i]?.scrollIntoView({ block: "nearest" });
  };
  return (
    <div className="sheet" onMouseDown={(e) => e.target === e.currentTarget && close()}>
      <div role="dialog" aria-modal="true" aria-label="Find anything">
        <input
          autoFocus
          placeholder="A block, a page, a place"
          aria-label="Find anything"
          role="combobox"
          aria-expanded="true"
          aria-controls="found"
          aria-activedescendant={found[at] ? `found-${at}` : undefined}
          value={text}
          onChange={(e) => {
            setText(e.target.value);
            setAt(0);
          }}
          onKeyDown={(e) => {
            if (e.key === "ArrowDown") {
              e.preventDefault();
              move(at + 1);
            }
            if (e.key === "ArrowUp") {
              e.preventDefault();
              move(at - 1);
            }
            if (e.key === "Enter") choose(found[at]);
            if (e.key === "Escape") close();
            if (e.key === "Tab") e.preventDefault();
          }}
        />
        <ul id="found" role="listbox" aria-label="Found" ref={list}>
          {found.map((h, i) => (
            <li
              key={h.to}
              id={`found-${i}`}
              role="option"
              aria-selected={i === at}
              onMouseEnter={() => setAt(i)}
              onClick={() => choose(h)}
            >
              <b>{h.title}</b> {h.detail} <span className="soft">{h.kind}</span>
            </li>
          ))}
          {found.length === 0 && <li className="empty">Nothing is called that.</li>}
        </ul>
      </div>
    </div>
  );
}
