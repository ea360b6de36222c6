import Checkbox from "@mui/material/Checkbox";
import Button from "@mui/material/Button";
import { useVirtualizer } from "@tanstack/react-virtual";
import { Fragment, useEffect, useMemo, useRef, useState } from "react";
import type { Placement } from "../api/client";
import { usePlacements } from "../api/queries";
import { actsOf, spotKey, verbs, type Act } from "../shared/copies/acts";
import { CopyBeside } from "../shared/copies/CopyBeside";
import { Doing } from "../shared/copies/Doing";
import { useActing } from "../shared/copies/useActing";
import { Tabs } from "../shared/Tabs";
import { Sliced } from "../shared/Sliced";
import { Waiting } from "../shared/Waiting";
import { useWallSubject, type WallSubject } from "../shared/wall/subject";
import { how, PlacementRow, seenBy } from "./PlacementRow";

interface Props {
  block: string;
  idle: WallSubject;
  look: (page: string) => void;
  done: (title: string) => void;
}

/** Every spot where a block stands, and what can be done to one or to chosen ones; what that
 *  means is said before it is done. */
export function Placements({ block, ...props }: Props) {
  const { data, error } = usePlacements(block);
  const waiting = <Waiting error={error}>Looking where it stands…</Waiting>;
  if (error || !data) return waiting;
  return (
    <Sliced before={waiting}>
      <Table block={block} placements={data} {...props} />
    </Sliced>
  );
}

/** What follows the block beside the spots in question: on how many other pages, and whether on the same. */
function othersThan(spots: { doc: string; address: string }[], placements: Placement[]) {
  if (spots.length === 0) return { pages: 0, beside: false };
  const going = new Set(spots.map(spotKey));
  const pages = new Set(spots.map((p) => p.doc));
  const following = placements.filter((p) => p.kind === "linked" && !going.has(spotKey(p)));
  return {
    pages: new Set(following.filter((p) => !pages.has(p.doc)).map((p) => p.page)).size,
    beside: following.some((p) => pages.has(p.doc)),
  };
}

const order: Act[] = ["update", "detach", "link", "replace"];

function Table({ block, placements, idle, look, done }: Props & { placements: Placement[] }) {
  const [filter, setFilter] = useState("");
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  // What was chosen a moment ago counts, also where it is not drawn yet.
  const latest = useRef(chosen);
  const choose = (keys: ReadonlySet<string>) => {
    latest.current = keys;
    setChosen(keys);
  };
  const acting = useActing(done);
  const { wanted, want, cancel } = acting;
  useWallSubject(acting.subject ?? idle);
  // Chosen spots are asked about as soon as they are chosen: what is done to them is said with
  // the button that does it.
  const [many, setMany] = useState(false);
  const ofBlock = (p: Placement) => ({ ...p, of: block });
  const askOf = (keys: ReadonlySet<string>, act?: Act) => {
    const spots = placements.filter((p) => keys.has(spotKey(p)));
    const open = order.filter((a) => spots.some((p) => actsOf(p).includes(a)));
    const next = act ?? (wanted && many && open.includes(wanted.act) ? wanted.act : open[0]);
    choose(keys);
    setMany(true);
    if (next) want(next, spots.filter((p) => actsOf(p).includes(next)).map(ofBlock));
    else cancel();
  };
  const turn = (p: Placement, act: Act) => {
    setMany(false);
    want(act, [ofBlock(p)]);
  };
  const leave = () => {
    cancel();
    if (many) choose(new Set());
  };
  const [compared, setCompared] = useState("");
  const box = useRef<HTMLDivElement>(null);
  const f = filter.toLowerCase();
  const rows = useMemo(
    () =>
      f === ""
        ? placements
        : placements.filter((p) =>
            (p.title + p.page + p.address + how(p.via) + seenBy(p)).toLowerCase().includes(f),
          ),
    [placements, f],
  );
  const list = useVirtualizer({
    count: rows.length,
    getScrollElement: () => box.current,
    estimateSize: () => 33,
    overscan: 10,
  });
  const drawn = list.getVirtualItems();
  const above = drawn[0]?.start ?? 0;
  const below = list.getTotalSize() - (drawn.at(-1)?.end ?? 0);
  const going = new Set(wanted?.spots.map(spotKey));
  const others = useMemo(() => othersThan(wanted?.spots ?? [], placements), [wanted, placements]);
  const behind = useMemo(
    () => placements.filter((p) => actsOf(p).includes("update")),
    [placements],
  );
  const choosable = useMemo(() => rows.filter((p) => actsOf(p).length > 0), [rows]);
  const all =
    chosen.size >= choosable.length &&
    choosable.length > 0 &&
    choosable.every((p) => chosen.has(spotKey(p)));
  const byKey = useRef(""); // the row in which a key was pressed: it has the focus again afterwards
  useEffect(() => {
    if (wanted || byKey.current === "") return;
    const at = rows.find((r) => spotKey(r) === byKey.current);
    if (!at) return;
    byKey.current = "";
    box.current
      ?.querySelector<HTMLElement>(
        `tr[data-page="${CSS.escape(at.page)}"][data-address="${CSS.escape(at.address)}"] :is(input, button)`,
      )
      ?.focus();
  }, [wanted, rows]);
  const doing = wanted && (
    <Doing {...acting.doing} act={wanted.act} spots={wanted.spots} others={others} cancel={leave} />
  );
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
          {behind.length > 0 && !wanted && (
            <Button onClick={() => askOf(new Set(behind.map(spotKey)), "update")}>
              Update {behind.length === 1 ? "the copy" : `${behind.length} copies`} behind the block
            </Button>
          )}{" "}
          {rows.length} of {placements.length} placements
        </span>
      </div>
      <div
        className="scroll placed-rows"
        ref={box}
        tabIndex={0}
        role="region"
        aria-label="Placements"
      >
        <table className="rows" aria-rowcount={rows.length + 1}>
          <thead>
            <tr>
              <th scope="col">
                <Checkbox
                  size="small"
                  className="row-box"
                  slotProps={{ input: { "aria-label": "Choose all that are shown" } }}
                  checked={all}
                  onChange={() => askOf(new Set(all ? [] : choosable.map(spotKey)))}
                />
              </th>
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
                <td colSpan={7} style={{ height: above, padding: 0, border: 0 }} />
              </tr>
            )}
            {drawn.map((v) => {
              const p = rows[v.index];
              if (!p) return null;
              const key = spotKey(p);
              const open = !many && going.has(key);
              return (
                <Fragment key={key}>
                  <PlacementRow
                    placement={p}
                    index={v.index}
                    open={open}
                    look={look}
                    turn={(act) => turn(p, act)}
                    chosen={chosen.has(key)}
                    choose={() =>
                      askOf(
                        latest.current.has(key)
                          ? new Set([...latest.current].filter((k) => k !== key))
                          : new Set([...latest.current, key]),
                      )
                    }
                    keyed={(act) => {
                      byKey.current = key;
                      turn(p, act);
                      requestAnimationFrame(() =>
                        box.current?.querySelector<HTMLElement>(".doing")?.focus(),
                      );
                    }}
                    compared={compared === key}
                    compare={() => setCompared(compared === key ? "" : key)}
                  />
                  {open && (
                    <tr>
                      <td colSpan={7} className="doing-of">
                        {doing}
                      </td>
                    </tr>
                  )}
                  {compared === key && !open && (
                    <tr>
                      <td colSpan={7}>
                        <CopyBeside doc={p.doc} address={p.address} />
                      </td>
                    </tr>
                  )}
                </Fragment>
              );
            })}
            {below > 0 && (
              <tr aria-hidden>
                <td colSpan={7} style={{ height: below, padding: 0, border: 0 }} />
              </tr>
            )}
          </tbody>
        </table>
      </div>
      {/* below the rows, which stay where they are while they are chosen */}
      {many && wanted && (
        <section className="chosen" aria-label="Chosen placements">
          <ActTabs
            chosen={placements.filter((p) => chosen.has(spotKey(p)))}
            act={wanted.act}
            choose={(act) => askOf(chosen, act)}
          />
          {doing}
        </section>
      )}
    </>
  );
}

/** What can be done to those that are chosen, with how many of them it is about. */
function ActTabs({
  chosen,
  act,
  choose,
}: {
  chosen: Placement[];
  act: Act;
  choose: (act: Act) => void;
}) {
  const open = order.flatMap((a) => {
    const n = chosen.filter((p) => actsOf(p).includes(a)).length;
    return n > 0 ? [[a, verbs[a](n)] as const] : [];
  });
  return (
    <div className="bar">
      <span>{chosen.length} chosen</span>
      <Tabs label="What to do with them" className="" value={act} choose={choose} tabs={open} />
    </div>
  );
}
