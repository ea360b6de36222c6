import Button from "@mui/material/Button";
import { useMemo, useState } from "react";
import type { Entry } from "../api/client";
import { useReference } from "../api/queries";

/** A call as it is inserted: required arguments empty, ready to be filled. */
function bare(e: Entry): string {
  const args = e.fields.filter((f) => f.required).map((f) => ` ${f.name}=""`).join("");
  return e.encloses ? `@{${e.name}${args}}@{/${e.name}}` : `@{${e.name}${args} /}`;
}

/** Chooses a call from the reference and puts it where the cursor stands. */
export function InsertCall({ insert }: { insert: (call: string) => void }) {
  const { data } = useReference();
  const [open, setOpen] = useState(false);
  const [filter, setFilter] = useState("");
  const found = useMemo(() => data?.entries.filter((e) => `${e.name} ${e.title} ${e.category} ${e.about}`.toLowerCase().includes(filter.toLowerCase())) ?? [], [data, filter]);
  const choose = (e: Entry | undefined) => {
    if (!e) return;
    setOpen(false);
    setFilter("");
    insert(bare(e));
  };
  if (!open) return <Button size="small" sx={{ padding: "0 6px" }} onClick={() => setOpen(true)}>Insert a call</Button>;
  return (
    <div className="insert-call" role="dialog" aria-label="Insert a call" onKeyDown={(e) => e.key === "Escape" && setOpen(false)}>
      <input autoFocus aria-label="Find a call" placeholder="A block or shortcode" value={filter} onChange={(e) => setFilter(e.target.value)} onKeyDown={(e) => e.key === "Enter" && choose(found[0])} />
      <ul>
        {found.slice(0, 40).map((e) => <li key={e.name}><button type="button" className="plain" onClick={() => choose(e)}><b>{e.title}</b> <code>{e.call}</code> <span className="soft">{e.about}</span></button></li>)}
        {found.length === 0 && <li className="empty">Nothing is called that.</li>}
      </ul>
    </div>
  );
}
