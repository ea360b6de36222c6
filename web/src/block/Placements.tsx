import Button from "@mui/material/Button";
import { useVirtualizer } from "@tanstack/react-virtual";
import { Fragment, useEffect, useMemo, useRef, useState } from "react";
import type { Operated, Placement } from "../api/client";
import { usePlacements } from "../api/queries";
import { waits } from "../shared/pendingSteps";
import { CopyBeside } from "../shared/copies/CopyBeside";
import { Sentence } from "../shared/Say";
import { useOperation } from "../shared/useOperation";
import { Waiting } from "../shared/Waiting";
import { how, PlacementRow, seenBy } from "./PlacementRow";

/** Every spot where a block stands, with detaching and linking again; what that
 *  means is said before it is done. */
export function Placements({
  block,
  look,
  done,
}: {
  block: string;
  look: (page: string) => void;
  done: (title: string) => void;
}) {
  const { data, error } = usePlacements(block);
  if (error || !data) return <Waiting error={error}>Looking where it stands…</Waiting>;
  return <Table placements={data} look={look} done={done} />;
}

function Table({
  placements,
  look,
  done,
}: {
  placements: Placement[];
  look: (page: string) => void;
  done: (title: string) => void;
}) {
  const [filter, setFilter] = useState("");
  const { asked, ask, cancel, carryOut, busy } = useOperation(done);
  useEffect(() => (asked ? waits(cancel) : undefined), [asked, cancel]);
  const [linking, setLinking] = useState(false); // as it was asked: the placement is another once that is saved
  const turn = (p: Placement, operation: "detach" | "link") => {
    setLinking(operation === "link");
    ask(p.doc + p.address, { operation, doc: p.doc, address: p.address });
  };
  const [compared, setCompared] = useState("");
  const box = useRef<HTMLDivElement>(null);
  const f = filter.toLowerCase();
  const rows = useMemo(
    () =>
      placements.filter((p) =>
        (p.title + p.page + p.address + how(p.via) + seenBy(p)).toLowerCase().includes(f),
      ),
    [placements, f],
  );
  const list = useVirtualizer({
    count: rows.length,
    getScrollElement: () => box.current,
    estimateSize: () => 33,
    overscan: 10,
    getItemKey: (i) => (rows[i] ? rows[i].doc + rows[i].address : i),
  });
  const drawn = list.getVirtualItems();
  const above = drawn[0]?.start ?? 0;
  const below = list.getTotalSize() - (drawn.at(-1)?.end ?? 0);
  const turned = placements.find((p) => p.doc + p.address === asked?.key);
  const following = placements
    .filter((p) => p.kind === "linked" && p !== turned)
    .map((p) => p.page);
  const others = new Set(following.filter((p) => p !== turned?.page)).size;
  const beside = following.some((p) => p === turned?.page);
  if (placements.length === 0)
    return (
      <p className="empty">
        This block stands nowhere yet. Write its call into a page or another block, or make a rule
        that places it.
      </p>
    );
  return (
    <>
      <div className="bar">
        <label>
          Filter{" "}
          <input
            value={filter}
            onChange={(e) => setFilter(e.target.value)}
            style={{
              font: "inherit",
              color: "inherit",
              background: "none",
              border: "1px solid var(--mortar)",
              borderRadius: 3,
              padding: "1px 6px",
            }}
          />
        </label>
        <span className="right">
          {rows.length} of {placements.length} placements
        </span>
      </div>
      <div className="scroll" ref={box} tabIndex={0} role="region" aria-label="Placements">
        <table className="rows" aria-rowcount={rows.length + 1}>
          <thead>
            <tr>
              <th scope="col">Page</th>
              <th scope="col">Region</th>
              <th scope="col">How it got there</th>
              <th scope="col">State</th>
              <th scope="col">Own values</th>
              <th scope="col">
                <span className="unseen">Actions</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {above > 0 && (
              <tr aria-hidden>
                <td colSpan={6} style={{ height: above, padding: 0, border: 0 }} />
              </tr>
            )}
            {drawn.map((v) => {
              const p = rows[v.index];
              if (!p) return null;
              const key = p.doc + p.address;
              const open = asked?.key === key;
              return (
                <Fragment key={key}>
                  <PlacementRow
                    placement={p}
                    index={v.index}
                    open={open}
                    look={look}
                    turn={(operation) => turn(p, operation)}
                    compared={compared === key}
                    compare={() => setCompared(compared === key ? "" : key)}
                  />
                  {open && (
                    <tr>
                      <td colSpan={6} className="step">
                        <Step
                          operated={asked.operated}
                          error={asked.error}
                          copy={linking}
                          others={others}
                          beside={beside}
                          busy={busy}
                          cancel={cancel}
                          go={carryOut}
                        />
                      </td>
                    </tr>
                  )}
                  {(compared === key || (open && linking && p.kind === "copy")) && (
                    <tr>
                      <td colSpan={6}>
                        <CopyBeside doc={p.doc} address={p.address} linking={open && linking} />
                      </td>
                    </tr>
                  )}
                </Fragment>
              );
            })}
            {below > 0 && (
              <tr aria-hidden>
                <td colSpan={6} style={{ height: below, padding: 0, border: 0 }} />
              </tr>
            )}
          </tbody>
        </table>
      </div>
    </>
  );
}

function Step({
  operated: o,
  error,
  copy,
  others,
  beside,
  busy,
  cancel,
  go,
}: {
  operated: Operated | null;
  error: string;
  copy: boolean;
  others: number;
  beside: boolean;
  busy: boolean;
  cancel: () => void;
  go: (o: Operated) => void;
}) {
  const im = o?.proposal.impact;
  return (
    <div>
      <div role="status">
        {error && <span className="bad-text">{error}</span>}
        {!error && !o && "Working out what that changes…"}
        {im && !copy && (
          <>
            <b>{im.counts.changes === 0 ? "No byte of any page changes." : im.sentence}</b> This
            page keeps a copy, and later edits of the block leave it alone. {others} other{" "}
            {others === 1 ? "page follows" : "pages follow"} the block as before
            {beside && ", and so does what stands elsewhere on this one"}.
          </>
        )}
        {im && copy && (
          <>
            <Sentence text={im.sentence} /> This page follows the block again from then on.
          </>
        )}
        {o && !im && <span className="bad-text">{o.proposal.problems[0]?.message}</span>}
      </div>
      <span className="end" style={{ marginLeft: "auto", display: "flex", gap: 8 }}>
        <Button variant="outlined" color="secondary" onClick={cancel}>
          Leave it
        </Button>
        {o && im && (
          <Button variant="contained" disabled={busy} onClick={() => go(o)}>
            {copy ? "Link again" : "Detach"}
          </Button>
        )}
      </span>
    </div>
  );
}
