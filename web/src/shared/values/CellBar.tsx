import Button from "@mui/material/Button";
import type { Field, Schemas } from "../../api/client";
import { FieldInput } from "../fields/FieldInput";
import { useChoices } from "../fields/useChoices";
import type { cellOf, Spot } from "./grid";
import { useCalled } from "../useCalled";
import { saySource } from "./sources";

interface Props {
  spots: Spot[];
  rows: Schemas["ValueRow"][];
  /** The first of the chosen cells. */
  top: ReturnType<typeof cellOf>;
  /** The field of all of them, where they are in one column. */
  field: Field | undefined;
  change: (value: () => string | null) => void;
  fill: () => void;
}

/** The chosen cells: where their value comes from, and another one for all of them. */
export function CellBar({ spots, rows, top, field, change, fill }: Props) {
  const choices = useChoices();
  const called = useCalled();
  return (
    <div className="cell-bar">
      <span className="soft">
        {spots.length === 1
          ? `${rows[spots[0]?.row ?? 0]?.title ?? ""}: ${top.edited ? "set here" : saySource(top.source, top.doc, called)}`
          : `${spots.length} cells`}
      </span>
      {field && rows.length > 0 && (
        <div className="cell-input">
          <FieldInput
            field={field}
            value={top.text}
            choices={choices}
            change={(v) => change(() => v)}
          />
        </div>
      )}
      <Button size="small" disabled={spots.length < 2} onClick={fill} title="Ctrl+D">
        Fill down
      </Button>
      <Button size="small" onClick={() => change(() => null)} title="Delete">
        Reset
      </Button>
    </div>
  );
}
