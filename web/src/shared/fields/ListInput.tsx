import Add from "@mui/icons-material/Add";
import Close from "@mui/icons-material/Close";
import Drag from "@mui/icons-material/DragIndicator";
import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
  type DragEndEvent,
} from "@dnd-kit/core";
import {
  arrayMove,
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from "@dnd-kit/sortable";
import { CSS } from "@dnd-kit/utilities";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import type { ReactNode } from "react";
import type { Field } from "../../api/client";
import { readItems, textOf, valueOf } from "./list";

/** A list of groups of fields: added to, taken from, and put in order by drag or by
 *  keyboard. */
export function ListInput({
  field,
  value,
  change,
  wrong,
  each,
}: {
  field: Field;
  value: string;
  change: (value: string) => void;
  wrong: string;
  /** The editor of one field of a group. */
  each: (field: Field, value: string, change: (value: string) => void) => ReactNode;
}) {
  const items = readItems(value);
  const put = (next: typeof items) => change(JSON.stringify(next));
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const moved = ({ active, over }: DragEndEvent) => {
    if (over && active.id !== over.id)
      put(arrayMove(items, Number(active.id) - 1, Number(over.id) - 1));
  };
  return (
    <fieldset className="list-input" aria-label={field.label}>
      <legend>
        {field.label} <span className="soft">{items.length}</span>
      </legend>
      {wrong && (
        <p className="bad-text" role="alert">
          {wrong}
        </p>
      )}
      <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={moved}>
        <SortableContext items={items.map((_, i) => i + 1)} strategy={verticalListSortingStrategy}>
          {items.map((item, i) => (
            <Item
              key={i}
              id={i + 1}
              title={`${field.label} ${i + 1}`}
              drop={() => put(items.filter((_, j) => j !== i))}
            >
              {field.fields.map((sub) =>
                each(sub, textOf(item[sub.name], sub.default_text), (v) =>
                  put(
                    items.map((old, j) =>
                      j === i ? { ...old, [sub.name]: valueOf(sub, v) } : old,
                    ),
                  ),
                ),
              )}
            </Item>
          ))}
        </SortableContext>
      </DndContext>
      <Button startIcon={<Add />} onClick={() => put([...items, {}])}>
        Add to {field.label.toLowerCase()}
      </Button>
    </fieldset>
  );
}

function Item({
  id,
  title,
  drop,
  children,
}: {
  id: number;
  title: string;
  drop: () => void;
  children: ReactNode;
}) {
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition } =
    useSortable({ id });
  return (
    <div
      className="list-item"
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition }}
    >
      <IconButton
        size="small"
        ref={setActivatorNodeRef}
        {...attributes}
        {...listeners}
        aria-label={`Move ${title}`}
      >
        <Drag fontSize="small" />
      </IconButton>
      <div className="list-fields">{children}</div>
      <IconButton size="small" aria-label={`Take away ${title}`} onClick={drop}>
        <Close fontSize="small" />
      </IconButton>
    </div>
  );
}
