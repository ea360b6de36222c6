import { useDroppable } from "@dnd-kit/core";
import { SortableContext, verticalListSortingStrategy } from "@dnd-kit/sortable";
import { useState } from "react";
import type { Candidate, PagePart, RegionStory } from "../api/client";
import { useReference } from "../api/queries";
import { begun, InsertCall } from "../shared/calls/InsertCall";
import { blockDragged } from "../shared/calls/drag";
import type { Doing } from "./useDoing";
import { OwnPart } from "./OwnPart";
import { RuleLink } from "../shared/rules/RuleLink";
import { RulePlaced } from "./RulePlaced";

interface Props {
  region: RegionStory;
  parts: PagePart[];
  hidden: string[];
  lost: boolean;
  others: string[];
  titles: Map<string, string>;
  atStart: ReadonlySet<string>;
  lit: string;
  doing: Doing;
}

const shows = {
  rule: "",
  page: "",
  both: "",
  default: "shows the layout's own content",
  nothing: "shows nothing",
} as const;

/** One region: what stands there in order, and why what else could does not. */
export function RegionOutline({
  region,
  parts,
  hidden,
  lost,
  others,
  titles,
  atStart,
  lit,
  doing,
}: Props) {
  const { data } = useReference();
  const { setNodeRef, isOver } = useDroppable({ id: `region:${region.region}` });
  const [why, setWhy] = useState(false);
  const [over, setOver] = useState(false);
  const own = parts.filter((p) => !p.within);
  const placed = region.candidates.filter(
    (c) => c.why === "shown" || c.why === "hidden" || c.why === "copied",
  );
  const losers = region.candidates.filter((c) => !placed.includes(c));
  const ruled = (list: Candidate[]) =>
    list.map((c) => (
      <RulePlaced
        key={c.rule}
        candidate={c}
        region={region.region}
        title={titles.get(c.block) ?? c.block}
        lit={lit}
        others={others}
        doing={doing}
      />
    ));
  const put = (call: string, before = -1, copy = false, open = false) =>
    doing.edit(
      { edit: "put", region: region.region, before, call, ...(copy && { as_copy: true }) },
      open,
    );
  const drop = (e: React.DragEvent) => {
    const block = blockDragged(e);
    setOver(false);
    const entry = data?.entries.find((x) => x.name === block);
    if (!entry) return;
    e.preventDefault();
    const row = (e.target as HTMLElement).closest<HTMLElement>("[data-part]");
    const i = own.findIndex((p) => String(p.from) === row?.dataset.part);
    const box = row?.getBoundingClientRect();
    put(
      begun(entry),
      i < 0 || !box
        ? -1
        : e.clientY > box.top + box.height / 2
          ? i + 1 < own.length
            ? i + 1
            : -1
          : i,
      e.altKey,
      true,
    );
  };
  return (
    <section
      className={over || isOver ? "region over" : "region"}
      aria-label={`Region ${region.region}`}
      ref={setNodeRef}
      onDragOver={(e) => {
        if (e.dataTransfer.types.includes("application/x-shelf-block")) {
          e.preventDefault();
          setOver(true);
        }
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
    >
      <h2>
        {region.region}{" "}
        <span className="soft">
          {lost ? (
            <span className="bad-text">
              the layout has no such region; its content shows nowhere. Move it.
            </span>
          ) : (
            <>
              {region.mode === "one" ? "one thing" : "all in order"}
              {region.width ? `, ${region.width} px wide` : ""}
              {shows[region.shows] && `; ${shows[region.shows]}`}
            </>
          )}
        </span>
        {losers.length > 0 && (
          <button
            type="button"
            className="plain word"
            aria-expanded={why}
            onClick={() => setWhy(!why)}
          >
            {losers.length} {losers.length > 1 ? "rules" : "rule"} not applied: why?
          </button>
        )}
        {!lost && (
          <span className="add">
            <InsertCall
              label={`Add to ${region.region}`}
              insert={(call) => put(call)}
              insertCopy={(call) => put(call, -1, true)}
            />
          </span>
        )}
      </h2>
      <ol>
        <SortableContext
          items={[
            ...own.map((p) => String(p.from)),
            ...placed.map((c) => `${region.region}/rule:${c.rule}`),
          ]}
          strategy={verticalListSortingStrategy}
        >
          {ruled(placed.filter((c) => atStart.has(c.rule)))}
          {parts.map((p) => (
            <OwnPart
              key={p.from}
              part={p}
              title={`${titles.get(p.name) ?? p.name}${p.called && `: ${p.called}`}`}
              hidden={hidden.includes(p.address)}
              lit={lit === p.address && lit !== ""}
              others={others}
              doing={doing}
            />
          ))}
          {ruled(placed.filter((c) => !atStart.has(c.rule)))}
        </SortableContext>
      </ol>
      {why && (
        <ul className="losers">
          {losers.map((c) => (
            <li key={c.rule}>
              <b>{titles.get(c.block) ?? c.block}</b> by <RuleLink rule={c.rule} /> does not stand
              here: {c.words}.
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
