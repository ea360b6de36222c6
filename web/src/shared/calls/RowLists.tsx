import Close from "@mui/icons-material/Close";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import { api, unwrap, type Row } from "../../api/client";
import { useReference, useSite } from "../../api/queries";
import { tell } from "../notices";
import { Sorted, useRow } from "../sorting";
import { characters } from "../editor/characters";
import { InsertCall } from "./InsertCall";

interface Props {
  path: string;
  text: string;
  rows: Row[];
  change: (text: string) => void;
  edit: (at: number) => void;
  adds?: boolean; // calls can be added here
}

/** The rows of calls of a text as lists: put in order by drag or keyboard, added to,
 *  taken from. The text follows, and nothing of it changes but the order. */
export function RowLists({ path, text, rows, change, edit, adds = true }: Props) {
  const site = useSite();
  const arrange = (region: string, order: number[], add = "") => {
    api
      .POST("/sites/{site}/row-edits", {
        params: { path: { site } },
        body: { path, text, region, order, add },
      })
      .then((a) => change(unwrap(a).text))
      .catch((e: unknown) => tell((e as Error).message, "error"));
  };
  return (
    <div className="scroll">
      {rows.map((r) => (
        <section key={r.region} aria-label={r.region ? `Calls in ${r.region}` : "Calls"}>
          {r.region && <h2 className="row-region">{r.region}</h2>}
          <RowList
            row={r}
            adds={adds}
            arrange={(order, add) => arrange(r.region, order, add)}
            edit={(from) => edit(characters(text, from) + 2)}
          />
        </section>
      ))}
    </div>
  );
}

function RowList({
  row,
  adds,
  arrange,
  edit,
}: {
  row: Row;
  adds: boolean;
  arrange: (order: number[], add?: string) => void;
  edit: (from: number) => void;
}) {
  const { data } = useReference();
  const all = row.items.map((_, i) => i);
  return (
    <>
      <Sorted keys={all.map((i) => i + 1)} order={(keys) => arrange(keys.map((k) => k - 1))}>
        <ol className="row-list">
          {row.items.map((it, i) => {
            const title = data?.entries.find((e) => e.name === it.name)?.title ?? it.name;
            return (
              <Item
                key={`${i} ${it.text}`}
                id={i + 1}
                title={title}
                item={it}
                drop={() => arrange(all.filter((j) => j !== i))}
                edit={() => edit(it.from)}
              />
            );
          })}
        </ol>
      </Sorted>
      {adds && (
        <div className="row-add">
          <InsertCall label="Add from the shelf" insert={(call) => arrange(all, call)} />
        </div>
      )}
    </>
  );
}

function Item({
  id,
  title,
  item,
  drop,
  edit,
}: {
  id: number;
  title: string;
  item: Row["items"][number];
  drop: () => void;
  edit: () => void;
}) {
  const named = `${title} ${id}`;
  const { row, handle } = useRow(id, named);
  return (
    <li {...row}>
      {handle}
      <span>
        <b>{title}</b>
        {item.copy && <span className="soft"> one-off copy</span>}
        <code>{item.text.split("\n")[0]}</code>
      </span>
      {item.copy ? (
        <span />
      ) : (
        <Button size="small" onClick={edit} aria-label={`Set values of ${named}`}>
          Set values
        </Button>
      )}
      <IconButton size="small" aria-label={`Remove ${named}`} onClick={drop}>
        <Close fontSize="small" />
      </IconButton>
    </li>
  );
}
