import Button from "@mui/material/Button";
import type { Layout, Operation } from "../api/client";
import { Choice } from "../shared/Choice";

interface Props {
  layout: Layout;
  layouts: Layout[];
  ask: (words: string, operation: Operation) => void;
}

/** Deletes a type of pages, whose pages become of another type. */
export function DeleteLayout({ layout, layouts, ask }: Props) {
  const drop = (to?: string) =>
    ask("Delete it", {
      operation: "delete-layout",
      name: layout.name,
      ...(to === undefined ? {} : { to }),
    });
  if (layout.pages === 0)
    return (
      <Button size="small" onClick={() => drop()}>
        Delete
      </Button>
    );
  return (
    <span className="new-rule">
      Delete, its pages become{" "}
      <Choice
        label="Delete, its pages become"
        value=""
        prompt="another type…"
        disabled={layouts.length < 2}
        choose={drop}
        options={layouts.filter((l) => l !== layout).map((l) => [l.name, l.title])}
      />
    </span>
  );
}
