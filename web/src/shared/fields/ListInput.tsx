import Add from "@mui/icons-material/Add";
import Close from "@mui/icons-material/Close";
import ContentCopy from "@mui/icons-material/ContentCopy";
import ExpandLess from "@mui/icons-material/ExpandLess";
import ExpandMore from "@mui/icons-material/ExpandMore";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import { useEffect, useRef, useState, type ReactNode } from "react";
import type { Field } from "../../api/client";
import { Sorted, useRow } from "../sorting";
import { readItems, textOf, titleOf, valueOf, type Item as Entry } from "./list";

/** From how many entries on a list begins folded. */
const many = 4;

interface Props {
  field: Field;
  value: string;
  change: (value: string) => void;
  wrong: string;
  /** The editor of one field of a group. */
  each: (field: Field, value: string, change: (value: string) => void) => ReactNode;
}

/** A list of groups of fields: added to, doubled, taken from, folded, and put in order by drag or
 *  by keyboard. What is new has the focus. */
export function ListInput({ field, value, change, wrong, each }: Props) {
  const items = readItems(value);
  // Each entry keeps a number while the list is edited here, so that it stays open where it goes.
  const [ids, setIds] = useState(() => items.map((_, i) => i + 1));
  const [folded, setFolded] = useState(() => new Set(items.length >= many ? ids : []));
  const [fresh, setFresh] = useState(0);
  const add = useRef<HTMLButtonElement>(null);
  // It can be edited elsewhere, or be what it was until an edit is made.
  const now = items.map((_, i) => ids[i] ?? Math.max(0, ...ids) + i + 1);
  const put = (next: Entry[], numbers: number[]) => {
    setIds(numbers);
    change(JSON.stringify(next));
  };
  const insert = (at: number, item: Entry) => {
    const id = Math.max(0, ...now, ...ids) + 1;
    setFresh(id);
    put(items.toSpliced(at, 0, item), now.toSpliced(at, 0, id));
  };
  const drop = (at: number) => {
    add.current?.focus();
    put(items.toSpliced(at, 1), now.toSpliced(at, 1));
  };
  const fold = (id: number) =>
    setFolded((all) => {
      const next = new Set(all);
      if (!next.delete(id)) next.add(id);
      return next;
    });
  return (
    <fieldset className="list-input" aria-label={field.label}>
      <legend>
        {field.label} <span className="soft">{items.length}</span>
      </legend>
      {wrong && (
        <p className="bad-text" role="alert">
          {wrong}
        </p>
      )}
      <Sorted
        keys={items.map((_, i) => i + 1)} // which are told to those who do not see where it goes
        order={(places) =>
          put(
            places.map((p) => items[p - 1] ?? {}),
            places.map((p) => now[p - 1] ?? p),
          )
        }
      >
        {items.map((item, i) => {
          const id = now[i] ?? i + 1;
          return (
            <Item
              key={id}
              place={i + 1}
              title={`${field.label} ${i + 1}`}
              words={titleOf(field, item)}
              folded={folded.has(id)}
              fresh={fresh === id}
              fold={() => fold(id)}
              double={() => insert(i + 1, item)}
              drop={() => drop(i)}
            >
              {field.fields.map((sub) =>
                each(sub, textOf(item[sub.name], sub.default_text), (v) =>
                  put(items.with(i, { ...item, [sub.name]: valueOf(sub, v) }), now),
                ),
              )}
            </Item>
          );
        })}
      </Sorted>
      <Button ref={add} startIcon={<Add />} onClick={() => insert(items.length, {})}>
        Add to {field.label.toLowerCase()}
      </Button>
    </fieldset>
  );
}

interface ItemProps {
  place: number;
  title: string;
  /** What it is, in words of its own. */
  words: string;
  folded: boolean;
  fresh: boolean;
  fold: () => void;
  double: () => void;
  drop: () => void;
  children: ReactNode;
}

function Item({ place, title, words, folded, fresh, fold, double, drop, children }: ItemProps) {
  const { row, handle } = useRow(place, title);
  const fields = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (fresh) fields.current?.querySelector<HTMLElement>("input, textarea, button")?.focus();
  }, [fresh]);
  return (
    <div className="list-item" {...row}>
      {handle}
      <div>
        <button type="button" className="plain list-title" aria-expanded={!folded} onClick={fold}>
          {folded ? <ExpandMore fontSize="small" /> : <ExpandLess fontSize="small" />}
          {words || <span className="soft">{title}</span>}
        </button>
        {!folded && (
          <div className="list-fields" ref={fields}>
            {children}
          </div>
        )}
      </div>
      <span>
        <IconButton size="small" aria-label={`Double ${title}`} onClick={double}>
          <ContentCopy fontSize="small" />
        </IconButton>
        <IconButton size="small" aria-label={`Remove ${title}`} onClick={drop}>
          <Close fontSize="small" />
        </IconButton>
      </span>
    </div>
  );
}
