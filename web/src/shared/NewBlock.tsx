import { useCallback, useState } from "react";
import { useNavigate } from "react-router";
import type { BlockSummary } from "../api/client";
import { useSite } from "../api/queries";
import { LiveForm } from "./LiveForm";
import { useLiveOperation } from "./useOperation";

/** A name as documents have it, from what somebody types: Opening hours gives
 *  opening-hours. */
export function nameOf(typed: string): string {
  return typed
    .trim()
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^[-0-9]+|-+$/g, "");
}

/** Puts a new block on the shelf: its title, from which its name follows, and the
 *  category it stands in. */
export function NewBlock({ blocks, close }: { blocks: BlockSummary[]; close: () => void }) {
  const site = useSite();
  const go = useNavigate();
  const [title, setTitle] = useState("");
  const [category, setCategory] = useState("");
  const name = nameOf(title);
  const done = useCallback(() => {
    close();
    void go(`/${site}/blocks/${name}`);
  }, [close, go, site, name]);
  const live = useLiveOperation(
    name ? { operation: "new-block", block: name, title: title.trim(), category } : null,
    done,
  );
  const categories = [...new Set(blocks.map((b) => b.category).filter(Boolean))];
  return (
    <LiveForm
      label="New block"
      className="new-block"
      live={live}
      act="Make it"
      close={close}
      hint={name ? <code>@{`{${name} /}`}</code> : "Its call follows from its title."}
      told={<code>@{`{${name} /}`}</code>}
    >
      <input
        autoFocus
        aria-label="Title of the new block"
        placeholder="Title"
        value={title}
        onChange={(e) => setTitle(e.target.value)}
      />
      <input
        aria-label="Category"
        placeholder="Category"
        list="categories"
        value={category}
        onChange={(e) => setCategory(e.target.value)}
      />
      <datalist id="categories">
        {categories.map((c) => (
          <option key={c} value={c} />
        ))}
      </datalist>
    </LiveForm>
  );
}
