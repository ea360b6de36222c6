import Drag from "@mui/icons-material/DragIndicator";
import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useDndContext,
  useSensor,
  useSensors,
  type Announcements,
  type UniqueIdentifier,
} from "@dnd-kit/core";
import {
  arrayMove,
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from "@dnd-kit/sortable";
import { CSS } from "@dnd-kit/utilities";
import IconButton from "@mui/material/IconButton";
import { createContext, use, useState, type KeyboardEvent, type ReactNode } from "react";

/** A press only lifts a row once it has moved a little, so that buttons in it stay buttons. */
export const lift = { activationConstraint: { distance: 4 } };

interface Row {
  data: { current?: { title?: string; sortable?: { index: number; items: unknown[] } } };
}

const titleOf = (row: Row) => row.data.current?.title ?? "It";

/** Where a row stands, as the 2nd of 5 in words. */
function placeOf(row: Row): string {
  const at = row.data.current?.sortable;
  return at ? `${at.index + 1} of ${at.items.length}` : `in the place of ${titleOf(row)}`;
}

/** What is said of what one moves by keyboard, for those who do not see it. */
const said: Announcements = {
  onDragStart: ({ active }) =>
    `${titleOf(active)} is taken. Arrow keys move it, Space puts it down, Escape puts it back.`,
  onDragOver: ({ active, over }) =>
    over ? `${titleOf(active)} would be ${placeOf(over)}.` : undefined,
  onDragEnd: ({ active, over }) =>
    over && over.id !== active.id
      ? `${titleOf(active)} is ${placeOf(over)}.`
      : `${titleOf(active)} stays where it was.`,
  onDragCancel: ({ active }) => `${titleOf(active)} stays where it was.`,
};
const howTo = {
  draggable:
    "Arrow keys move it up and down. Space takes it, to be put anywhere with the same keys.",
};

/** What was lifted, and over what it was put down. */
export interface Moved {
  active: { id: UniqueIdentifier };
  over: { id: UniqueIdentifier } | null;
}

/** Puts a row in the place of another, of which says what is told then. */
const Moving = createContext<(moved: Moved, says: string) => void>(() => undefined);

/** Where rows can be lifted and dropped, by pointer or keyboard. */
export function Droppable({ moved, children }: { moved: (e: Moved) => void; children: ReactNode }) {
  const [says, setSays] = useState("");
  const move = (e: Moved, words: string) => {
    moved(e);
    setSays(words);
  };
  const sensors = useSensors(
    useSensor(PointerSensor, lift),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragEnd={moved}
      accessibility={{ announcements: said, screenReaderInstructions: howTo }}
    >
      <Moving value={move}>{children}</Moving>
      <p className="unseen" role="status">
        {says}
      </p>
    </DndContext>
  );
}

/** Rows one below the other that one puts in order: order gets the keys of all of them as
 *  they stand then. */
export function Sorted<K extends UniqueIdentifier>({
  keys,
  order,
  children,
}: {
  keys: K[];
  order: (keys: K[]) => void;
  children: ReactNode;
}) {
  return (
    <Droppable
      moved={({ active, over }) => {
        if (over && active.id !== over.id)
          order(arrayMove(keys, keys.indexOf(active.id as K), keys.indexOf(over.id as K)));
      }}
    >
      <SortableContext items={keys} strategy={verticalListSortingStrategy}>
        {children}
      </SortableContext>
    </Droppable>
  );
}

/** One row of what is put in order: what its element takes, and the handle that lifts it. Nothing can
 *  be put in the place of one that is fixed. */
export function useRow(id: UniqueIdentifier, title: string, disabled = false, fixed = false) {
  const sortable = useSortable({
    id,
    data: { title },
    disabled: { draggable: disabled, droppable: disabled || fixed },
  });
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition } =
    sortable;
  const move = use(Moving);
  const { droppableContainers } = useDndContext();
  const key = (e: KeyboardEvent<HTMLElement>) => {
    const by = e.key === "ArrowUp" ? -1 : e.key === "ArrowDown" ? 1 : 0;
    if (by === 0 || sortable.active !== null || e.ctrlKey || e.altKey || e.metaKey) {
      (listeners?.onKeyDown as ((e: KeyboardEvent) => void) | undefined)?.(e);
      return;
    }
    e.preventDefault();
    const { items, index } = sortable;
    let at = index + by;
    while (items[at] !== undefined && droppableContainers.get(items[at] ?? "")?.disabled) at += by;
    const over = items[at];
    if (over === undefined) return;
    move({ active: { id }, over: { id: over } }, `${title} is ${at + 1} of ${items.length}.`);
    follow(e.currentTarget, (at + 1) / items.length);
  };
  return {
    row: {
      ref: setNodeRef,
      style: { transform: CSS.Translate.toString(transform), transition },
    },
    handle: (
      <IconButton
        size="small"
        ref={setActivatorNodeRef}
        {...attributes}
        {...listeners}
        onKeyDown={key}
        aria-label={`Move ${title}`}
      >
        <Drag fontSize="small" />
      </IconButton>
    ),
  };
}

/** Milliseconds for which the focus follows a row that was moved. */
const soon = 1500;

/** Keeps the focus on the handle of a row that is moved, which may be drawn anew at its new place:
 *  then on the one of its name that is nearest to where it stands now, as a share of the list. */
function follow(handle: HTMLElement, share: number) {
  const list = handle.closest("ul, ol");
  const name = handle.getAttribute("aria-label");
  const until = performance.now() + soon;
  const look = () => {
    const now = document.activeElement;
    if (!now || now === document.body || !now.matches("button, input, a")) {
      const named = [...(list?.querySelectorAll<HTMLElement>("button[aria-label]") ?? [])].filter(
        (b) => b.getAttribute("aria-label") === name,
      );
      const rows = [...(list?.children ?? [])];
      const far = (b: HTMLElement) =>
        Math.abs((rows.findIndex((r) => r.contains(b)) + 1) / rows.length - share);
      named.sort((a, b) => far(a) - far(b))[0]?.focus();
    }
    if (performance.now() < until) requestAnimationFrame(look);
  };
  requestAnimationFrame(look);
}
