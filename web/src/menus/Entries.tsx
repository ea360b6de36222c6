import Button from "@mui/material/Button";
import { useState } from "react";
import type { MenuItem } from "../api/client";
import { useOverview } from "../api/queries";
import { useChoices } from "../shared/fields/useChoices";
import { EntryForm } from "./EntryForm";
import { PanelRoom } from "./PanelRoom";
import { TypedField } from "../shared/TypedField";
import { MenuTree } from "./MenuTree";
import { doubled, end, entry, type Entry } from "./tree";

/** How many pages are listed that a menu does not lead to. */
const most = 50;

interface Props {
  title: string;
  setTitle: (title: string | null) => void;
  entries: Entry[];
  set: (entries: Entry[]) => void;
  chosen: number;
  choose: (id: number) => void;
  /** Puts a new entry at a place, so deep. */
  add: (at: number, depth: number) => void;
}

/** A menu's title, its entries as a tree, and the one that is chosen as a form. */
export function Entries({ title, setTitle, entries, set, chosen, choose, add }: Props) {
  const choices = useChoices();
  const i = entries.findIndex((e) => e.id === chosen);
  const one = entries[i];
  const put = (part: Partial<MenuItem>) =>
    set(entries.map((e) => (e.id === chosen ? { ...e, item: { ...e.item, ...part } } : e)));
  const [inPanel, setInPanel] = useState(false);
  const overview = useOverview().data;
  if (one && inPanel)
    return (
      <PanelRoom
        label={one.item.label}
        panel={one.item.panel}
        choices={choices}
        put={(panel) => put({ panel })}
        close={() => setInPanel(false)}
      />
    );
  const led = new Set(entries.map((e) => e.item.to));
  const missing =
    entries.length === 0 ? [] : (overview?.pages.filter((p) => !led.has(p.path)) ?? []);
  return (
    <>
      <div className="scroll">
        <div className="menu-title">
          <TypedField label="Title of the menu" value={title} change={(t) => setTitle(t || null)} />
        </div>
        <MenuTree entries={entries} set={set} chosen={chosen} choose={choose} />
        {missing.length > 0 && (
          <details className="not-led">
            <summary>
              {missing.length} {missing.length === 1 ? "page is" : "pages are"} not in it
            </summary>
            <ul>
              {missing.slice(0, most).map((p) => (
                <li key={p.path}>
                  {p.title} <code>{p.path}</code>{" "}
                  <Button
                    size="small"
                    aria-label={`Add ${p.title} to the menu`}
                    onClick={() => set([...entries, entry({ label: p.title, to: p.path })])}
                  >
                    Add
                  </Button>
                </li>
              ))}
            </ul>
            {missing.length > most && <p className="soft">and {missing.length - most} more</p>}
          </details>
        )}
        {entries.length === 0 && <p className="empty">Nothing in it yet. Add an entry.</p>}
      </div>
      {one && (
        <EntryForm
          key={one.id}
          item={one.item}
          choices={choices}
          put={put}
          add={(under) => add(under ? i + 1 : end(entries, i), one.depth + (under ? 1 : 0))}
          double={() => {
            const two = doubled(entries, i);
            set(two.list);
            choose(two.id);
          }}
          open={() => setInPanel(true)}
          drop={() => {
            choose(-1);
            set([...entries.slice(0, i), ...entries.slice(end(entries, i))]);
          }}
          close={() => choose(-1)}
        />
      )}
    </>
  );
}
