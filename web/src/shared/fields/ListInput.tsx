import Add from "@mui/icons-material/Add";
import Close from "@mui/icons-material/Close";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import type { ReactNode } from "react";
import type { Field } from "../../api/client";
import { Sorted, useRow } from "../sorting";
import { readItems, textOf, valueOf } from "./list";

/** A list of groups of fields: added to, taken from, and put in order by drag or by
 *  keyboard. */
export function ListInput({
  field,
  value,
  change,
  wrong,
  each,
}: {
  field: Field;
  value: string;
  change: (value: string) => void;
  wrong: string;
  /** The editor of one field of a group. */
  each: (field: Field, value: string, change: (value: string) => void) => ReactNode;
}) {
  const items = readItems(value);
  const put = (next: typeof items) => change(JSON.stringify(next));
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
        keys={items.map((_, i) => i + 1)}
        order={(keys) => put(keys.map((k) => items[k - 1] ?? {}))}
      >
        {items.map((item, i) => (
          <Item
            key={i}
            id={i + 1}
            title={`${field.label} ${i + 1}`}
            drop={() => put(items.filter((_, j) => j !== i))}
          >
            {field.fields.map((sub) =>
              each(sub, textOf(item[sub.name], sub.default_text), (v) =>
                put(
                  items.map((old, j) => (j === i ? { ...old, [sub.name]: valueOf(sub, v) } : old)),
                ),
              ),
            )}
          </Item>
        ))}
      </Sorted>
      <Button startIcon={<Add />} onClick={() => put([...items, {}])}>
        Add to {field.label.toLowerCase()}
      </Button>
    </fieldset>
  );
}

function Item({
  id,
  title,
  drop,
  children,
}: {
  id: number;
  title: string;
  drop: () => void;
  children: ReactNode;
}) {
  const { row, handle } = useRow(id, title);
  return (
    <div className="list-item" {...row}>
      {handle}
      <div className="list-fields">{children}</div>
      <IconButton size="small" aria-label={`Take away ${title}`} onClick={drop}>
        <Close fontSize="small" />
      </IconButton>
    </div>
  );
}
