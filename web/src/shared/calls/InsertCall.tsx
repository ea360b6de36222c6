import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { Suspense, useMemo, useState } from "react";
import type { Entry, Overview } from "../../api/client";
import { useOverview, useReference } from "../../api/queries";
import { later } from "../later";
import { NotShown } from "../NotShown";
import { useTry } from "../useEdit";
import { Live } from "../rendering/Live";
import { argumentsIn, enclosedIn, enclosing as withEnclosed, madeUp } from "./sample";

const CallPanel = later(() => import("./CallPanel"), "CallPanel");

/** A call as it is inserted: required arguments empty, ready to be filled. */
export function bare(e: Entry): string {
  const args = e.fields
    .filter((f) => f.required)
    .map((f) => ` ${f.name}=""`)
    .join("");
  return e.encloses ? `@{${e.name}${args}}@{/${e.name}}` : `@{${e.name}${args} /}`;
}

/** A call as it is put where somebody is writing: what it needs has the values of its sample, or made-up
 *  ones, and what it encloses is what was selected, or begins as its sample has it. */
export function begun(e: Entry, selected = ""): string {
  const given = argumentsIn(e.sample);
  const args = e.fields
    .filter((f) => f.required && f.type !== "list")
    .map((f) => ` ${f.name}=${JSON.stringify(given[f.name] || madeUp(f))}`)
    .join("");
  const call = `@{${e.name}${args}`;
  return e.encloses ? `${call}}${selected || enclosedIn(e.sample)}@{/${e.name}}` : `${call} /}`;
}

/** What can be called and holds some words, those first that are named so. */
export function matches(entries: Entry[], words: string): Entry[] {
  const rank = (e: Entry) =>
    [e.name, e.title.toLowerCase()]
      .map((t) => (t === words ? 0 : t.startsWith(words) ? 1 : t.includes(words) ? 2 : 3))
      .sort((a, b) => a - b)[0] ?? 3;
  return entries
    .filter(
      (e) => e.on && `${e.name} ${e.title} ${e.category} ${e.about}`.toLowerCase().includes(words),
    )
    .sort((a, b) => rank(a) - rank(b));
}

interface Props {
  /** Puts the call where the cursor stands; in the place of what is selected, where it took that in. */
  insert: (call: string, took: boolean) => void;
  /** What is selected, which a call that encloses something takes in. */
  selected?: string;
  /** Where a page takes it: what the call shows, as a copy. */
  insertCopy?: (call: string) => void;
  label?: string;
  /** Whether only what encloses something is offered. */
  enclosing?: boolean;
}

/** Chooses a call from the reference and puts it where the cursor stands. */
export function InsertCall({
  insert,
  insertCopy,
  selected = "",
  label = "Insert a call",
  enclosing = false,
}: Props) {
  const { data } = useReference();
  const [open, setOpen] = useState(false);
  const [filter, setFilter] = useState("");
  const found = useMemo(
    () =>
      matches(
        (data?.entries ?? []).filter((e) => e.encloses || !enclosing),
        filter.trim().toLowerCase(),
      ),
    [data, filter, enclosing],
  );
  const [chosen, setChosen] = useState<Entry | null>(null);
  const close = () => {
    setOpen(false);
    setFilter("");
    setChosen(null);
  };
  const choose = (e: Entry | undefined) => {
    if (e) setChosen(e);
  };
  if (!open)
    return (
      <Button size="small" sx={{ padding: "0 6px" }} onClick={() => setOpen(true)}>
        {label}
      </Button>
    );
  return (
    <div
      className="insert-call"
      role="dialog"
      aria-label={label}
      onKeyDown={(e) => e.key === "Escape" && close()}
    >
      {chosen ? (
        <Filled
          entry={chosen}
          selected={selected}
          insert={(call) => {
            close();
            insert(call, selected !== "" && chosen.encloses);
          }}
          insertCopy={
            insertCopy &&
            ((call) => {
              close();
              insertCopy(call);
            })
          }
          back={() => setChosen(null)}
        />
      ) : (
        <>
          <input
            autoFocus
            aria-label="Find a call"
            placeholder="A block or shortcode"
            value={filter}
            onChange={(e) => setFilter(e.target.value)}
            onKeyDown={(e) => {
              if (e.key !== "Enter") return;
              e.preventDefault(); // the same key would press the button that comes next
              choose(found[0]);
            }}
          />
          <ul ref={intoView}>
            {found.slice(0, 40).map((e) => (
              <li key={e.name}>
                <button type="button" className="plain" onClick={() => choose(e)}>
                  <b>{e.title}</b> <code>{e.call}</code> <span className="soft">{e.about}</span>
                </button>
              </li>
            ))}
            {found.length === 0 && <li className="empty">Nothing is called that.</li>}
          </ul>
        </>
      )}
    </div>
  );
}

/** Scrolls what has opened into view, where it stands in a list that can be scrolled. */
function intoView(el: HTMLElement | null) {
  const box = el?.closest(".scroll");
  if (!el || !box) return;
  const [at, room] = [el.getBoundingClientRect(), box.getBoundingClientRect()];
  const below = at.bottom - room.bottom;
  if (below > 0) box.scrollTop += Math.min(below, at.top - room.top);
}

/** The call that was chosen, with a form and as it looks, before it is inserted. */
function Filled({
  entry,
  selected,
  insert,
  insertCopy,
  back,
}: {
  entry: Entry;
  selected: string;
  insert: (call: string) => void;
  insertCopy: ((call: string) => void) | undefined;
  back: () => void;
}) {
  const overview = useOverview();
  const [call, setCall] = useState(() => begun(entry, selected));
  return (
    <div className="insert-filled" ref={intoView}>
      <span className="insert-row">
        <b>{entry.title}</b>
        <Button autoFocus size="small" variant="contained" onClick={() => insert(call)}>
          Insert it
        </Button>
        {insertCopy && entry.kind === "block" && (
          <Button
            size="small"
            variant="outlined"
            color="secondary"
            onClick={() => insertCopy(call)}
          >
            Insert a copy
          </Button>
        )}
        <Button size="small" color="secondary" onClick={back}>
          Another
        </Button>
      </span>
      {insertCopy && entry.kind === "block" && (
        <span className="soft">
          Inserted, it follows the block: each edit of the block shows here too. A copy shows the
          same today, and no later edit of the block reaches it.
        </span>
      )}
      <Suspense>
        <CallPanel text={call} at={3} change={setCall} close={back} />
      </Suspense>
      {entry.encloses && (
        <TextField
          fullWidth
          multiline
          maxRows={6}
          label={selected ? "It encloses the selection" : "What it encloses"}
          value={enclosedIn(call)}
          onChange={(e) => setCall(withEnclosed(call, e.target.value))}
          slotProps={{ htmlInput: { className: "mono", spellCheck: false } }}
        />
      )}
      {overview.data && <Look call={call} overview={overview.data} name={entry.name} />}
    </div>
  );
}

function Look({ call, overview, name }: { call: string; overview: Overview; name: string }) {
  const { url, problem } = useTry(call, overview);
  const light = useMemo(() => ({ block: name, scroll: true }), [name]);
  if (problem) return <NotShown what="It" problem={problem} />;
  return (
    url && (
      <div className="insert-look">
        <Live url={url} width="tablet" title={`${name} as it would look`} light={light} />
      </div>
    )
  );
}
