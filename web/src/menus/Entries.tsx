import TextField from "@mui/material/TextField";
import type { MenuItem } from "../api/client";
import { useChoices } from "../shared/fields/useChoices";
import { EntryForm } from "./EntryForm";
import { MenuTree } from "./MenuTree";
import { end, type Entry } from "./tree";

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
  return (
    <>
      <div className="scroll">
        <div className="menu-title">
          <TextField
            label="Title of the menu"
            value={title}
            onChange={(e) => setTitle(e.target.value || null)}
          />
        </div>
        <MenuTree entries={entries} set={set} chosen={chosen} choose={choose} />
        {entries.length === 0 && <p className="empty">Nothing in it yet. Add an entry.</p>}
      </div>
      {one && (
        <EntryForm
          key={one.id}
          item={one.item}
          choices={choices}
          put={put}
          add={(under) => add(under ? i + 1 : end(entries, i), one.depth + (under ? 1 : 0))}
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
