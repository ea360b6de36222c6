import { useNewRule } from "../shared/rules/NewRule";
import { useDeferredValue, useMemo, useRef, useState } from "react";
import { useNavigate } from "react-router";
import type { Overview } from "../api/client";
import { useFiles, useLayouts, useMenus, useReference, useReview, useRules } from "../api/queries";
import { useWords } from "../api/words";
import { matching, named, said, type Command, type Hit } from "./hits";

/** How many things with a name are listed, and how many spots where something is said. */
const most = 60;
const spots = 12;

/** Finds everything by any part of its name, commands too, and where the site says something. */
export function Find({
  overview,
  commands,
  close,
  gone,
}: {
  overview: Overview;
  commands: Command[];
  close: () => void;
  /** Told where one goes. */
  gone?: (to: string) => void;
}) {
  const [text, setText] = useState("");
  const [at, setAt] = useState(0);
  const list = useRef<HTMLUListElement>(null);
  const go = useNavigate();
  const reference = useReference().data;
  const rules = useRules().data;
  const layouts = useLayouts().data;
  const menus = useMenus().data;
  const files = useFiles().data;
  const review = useReview().data;
  const newRule = useNewRule(gone);
  const all = useMemo(
    () =>
      named(
        overview,
        {
          entries: reference?.entries ?? [],
          rules: rules ?? [],
          layouts: layouts ?? [],
          menus: menus ?? [],
          files: files ?? [],
          review,
        },
        commands,
        newRule,
      ),
    [overview, commands, newRule, reference, rules, layouts, menus, files, review],
  );
  // A letter alone stands almost everywhere.
  const words = useDeferredValue(text.trim().length > 1 ? text : "");
  const looked = useWords({ text: words }, "", spots);
  const says = looked.isPlaceholderData ? undefined : looked.data; // not what was typed before
  const found = useMemo(
    () => [...matching(all, text, most), ...(words ? said(overview, words, says) : [])],
    [all, text, overview, words, says],
  );
  const choose = (h: Hit | undefined) => {
    if (!h) return;
    close();
    if (h.act) h.act();
    else if (h.to) {
      void go(h.to);
      gone?.(h.to);
    }
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
          placeholder="A block, a page, a text, a command"
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
              key={h.id}
              id={`found-${i}`}
              role="option"
              aria-selected={i === at}
              onMouseEnter={() => setAt(i)}
              onClick={() => choose(h)}
            >
              <b dir="auto">{h.title}</b> {h.detail} <span className="soft">{h.kind}</span>
            </li>
          ))}
          {found.length === 0 && <li className="empty">Nothing is called that.</li>}
        </ul>
      </div>
    </div>
  );
}
