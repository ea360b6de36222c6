import Drag from "@mui/icons-material/DragIndicator";
import {
  closestCenter,
  DndContext,
  PointerSensor,
  useSensor,
  useSensors,
  type DragEndEvent,
  type DragMoveEvent,
} from "@dnd-kit/core";
import { SortableContext, useSortable, verticalListSortingStrategy } from "@dnd-kit/sortable";
import { CSS } from "@dnd-kit/utilities";
import IconButton from "@mui/material/IconButton";
import { useRef, useState } from "react";
import { lift } from "../shared/sorting";
import { end, put, standsAt, step, type Entry } from "./tree";

const indent = 24; // pixels for each step of nesting

interface Props {
  entries: Entry[];
  set: (entries: Entry[]) => void;
  chosen: number;
  choose: (id: number) => void;
}

/** A menu's entries as a tree: dragged up and down to be put in order and sideways to
 *  be nested; by keyboard with the arrow keys on the handle. */
export function MenuTree({ entries, set, chosen, choose }: Props) {
  const [dragged, setDragged] = useState({ id: -1, by: 0 });
  const [said, setSaid] = useState("");
  const sensors = useSensors(useSensor(PointerSensor, lift));
  const moved = ({ active, over, delta }: DragEndEvent) => {
    setDragged({ id: -1, by: 0 });
    const from = entries.findIndex((e) => e.id === active.id);
    const to = entries.findIndex((e) => e.id === over?.id);
    const e = entries[from];
    if (!e || to < 0) return;
    const size = end(entries, from) - from;
    if (to > from && to < from + size) return; // over what stands under it
    const next = put(
      entries,
      from,
      to > from ? to - size + 1 : to,
      e.depth + Math.round(delta.x / indent),
    );
    if (JSON.stringify(next) !== JSON.stringify(entries)) set(next);
  };
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragMove={({ active, delta }: DragMoveEvent) =>
        setDragged({ id: Number(active.id), by: Math.round(delta.x / indent) })
      }
      onDragEnd={moved}
      onDragCancel={() => setDragged({ id: -1, by: 0 })}
    >
      <SortableContext items={entries.map((e) => e.id)} strategy={verticalListSortingStrategy}>
        <ol className="row-list menu-tree">
          {entries.map((e, i) => (
            <Item
              key={e.id}
              entry={e}
              depth={e.id === dragged.id ? Math.max(e.depth + dragged.by, 0) : e.depth}
              first={i === 0}
              chosen={e.id === chosen}
              choose={() => choose(e.id)}
              move={(way) => {
                const next = step(entries, i, way);
                set(next);
                setSaid(standsAt(next, e.id));
              }}
            />
          ))}
        </ol>
        <p className="unseen" role="status">
          {said}
        </p>
      </SortableContext>
    </DndContext>
  );
}

const ways = { ArrowUp: "up", ArrowDown: "down", ArrowLeft: "out", ArrowRight: "in" } as const;

function Item({
  entry: { id, item },
  depth,
  first,
  chosen,
  choose,
  move,
}: {
  entry: Entry;
  depth: number;
  first: boolean;
  chosen: boolean;
  choose: () => void;
  move: (way: "up" | "down" | "in" | "out") => void;
}) {
  const { listeners, setNodeRef, setActivatorNodeRef, transform, transition } = useSortable({ id });
  const handle = useRef<HTMLButtonElement>(null);
  const key = (e: React.KeyboardEvent) => {
    const way = ways[e.key as keyof typeof ways] as (typeof ways)[keyof typeof ways] | undefined;
    if (!way) return;
    e.preventDefault();
    move(way);
    requestAnimationFrame(() => handle.current?.focus());
  };
  return (
    <li
      ref={setNodeRef}
      style={{
        transform: CSS.Translate.toString(transform),
        transition,
        paddingLeft: depth * indent,
      }}
      className={chosen ? "lit" : ""}
    >
      <IconButton
        size="small"
        ref={(n: HTMLButtonElement | null) => {
          setActivatorNodeRef(n);
          handle.current = n;
        }}
        {...listeners}
        onKeyDown={key}
        {...(first && { "data-first": "" })}
        aria-label={`Move ${item.label}`}
        aria-description="Arrow keys move it: up, down, and sideways to nest it"
      >
        <Drag fontSize="small" />
      </IconButton>
      <button type="button" className="plain name" aria-pressed={chosen} onClick={choose}>
        <b>{item.label || "no label yet"}</b>{" "}
        <span className="soft">
          {item.to}
          {item.new_tab && " in a new tab"}
          {item.panel && ", with a panel"}
          {item.audience && `, only for those who are ${item.audience.replace("-", " ")}`}
          {item.from && `, from ${item.from}`}
          {item.until && `, until ${item.until}`}
        </span>
      </button>
      {item.badge && <span className="menu-badge">{item.badge}</span>}
    </li>
  );
}
