import Drag from "@mui/icons-material/DragIndicator";
import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
  type Announcements,
  type DragEndEvent,
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
import type { ReactNode } from "react";

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
const howTo = { draggable: "Space takes it, arrow keys move it, Space puts it down." };

/** Where rows can be lifted and dropped, by pointer or keyboard. */
export function Droppable({
  moved,
  children,
}: {
  moved: (e: DragEndEvent) => void;
  children: ReactNode;
}) {
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
      {children}
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
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition } =
    useSortable({
      id,
      data: { title },
      disabled: { draggable: disabled, droppable: disabled || fixed },
    });
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
        aria-label={`Move ${title}`}
      >
        <Drag fontSize="small" />
      </IconButton>
    ),
  };
}
