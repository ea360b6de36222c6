import { useMemo, useState } from "react";
import { useReference, useRows } from "../api/queries";
import { CallPanel } from "../shared/calls/CallPanel";
import { bare } from "../shared/calls/InsertCall";
import { RowLists } from "../shared/calls/RowLists";
import { Choice } from "../shared/Choice";

/** The calls that a roll-out puts on pages: chosen from the shelf, with their values. */
export function WhatCalls({
  calls,
  change,
  label = "Put",
}: {
  calls: string;
  change: (calls: string) => void;
  label?: string;
}) {
  const { data } = useReference();
  const rows = useRows("blocks/these.html", calls);
  const [at, setAt] = useState(() => (calls.includes('=""') ? 3 : -1));
  const on = useMemo(
    () =>
      (data?.entries ?? [])
        .filter((e) => e.on && e.kind !== "built-in")
        .sort((a, b) => a.title.localeCompare(b.title)),
    [data],
  );
  const add = (name: string) => {
    const entry = on.find((e) => e.name === name);
    if (!entry) return;
    const before = calls.trim() ? `${calls.trimEnd()}\n` : "";
    change(before + bare(entry));
    setAt(entry.fields.some((f) => f.required) ? before.length + 3 : -1);
  };
  return (
    <>
      {calls.trim() && rows.data && (
        <RowLists
          path="blocks/these.html"
          text={calls}
          rows={rows.data}
          change={(t) => {
            setAt(-1);
            change(t);
          }}
          edit={setAt}
          adds={false}
        />
      )}
      {at >= 0 && <CallPanel text={calls} at={at} change={change} close={() => setAt(-1)} />}
      <span>
        {calls.trim() ? "and" : label}{" "}
        <Choice
          label="Put a block there"
          value=""
          prompt="a block…"
          choose={add}
          options={on.map((e) => [e.name, e.title])}
        />
      </span>
    </>
  );
}
