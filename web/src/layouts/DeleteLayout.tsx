import Button from "@mui/material/Button";
import type { Layout, Operation } from "../api/client";

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
    <label className="new-rule">
      Delete, its pages become{" "}
      <select value="" disabled={layouts.length < 2} onChange={(e) => drop(e.target.value)}>
        <option value="" disabled>
          another type…
        </option>
        {layouts
          .filter((l) => l !== layout)
          .map((l) => (
            <option key={l.name} value={l.name}>
              {l.title}
            </option>
          ))}
      </select>
    </label>
  );
}
