import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { TypedField } from "../shared/TypedField";
import { useState } from "react";
import { fieldTypes, type Field } from "../api/client";
import { nameOf } from "../shared/NewBlock";
import { Choice } from "../shared/Choice";

// A choice and a list need more than a type.
const types: readonly string[] = fieldTypes.filter((t) => t !== "choice" && t !== "list");

/** The fields that pages of a type can have, from which blocks take their values. */
export function PageFields({
  fields,
  set,
}: {
  fields: Field[];
  set: (keys: string[], value: unknown) => void;
}) {
  const [label, setLabel] = useState("");
  const [type, setType] = useState("text");
  const name = nameOf(label);
  return (
    <div className="scroll">
      <table className="region-table">
        <thead>
          <tr>
            <th scope="col">Field</th>
            <th scope="col">Type</th>
            <th scope="col">Label</th>
            <td />
          </tr>
        </thead>
        <tbody>
          {fields.map((f) => (
            <tr key={f.name}>
              <th scope="row">{f.name}</th>
              <td>
                {types.includes(f.type) ? (
                  <Choice
                    label={`Type of ${f.name}`}
                    value={f.type as string}
                    choose={(t) => set(["page_fields", f.name, "type"], t)}
                    options={types.map((t) => [t, t])}
                  />
                ) : (
                  f.type
                )}
              </td>
              <td>
                <TypedField
                  slotProps={{ htmlInput: { "aria-label": `Label of ${f.name}` } }}
                  value={f.label}
                  change={(v) => set(["page_fields", f.name, "label"], v || null)}
                />
              </td>
              <td>
                <button
                  type="button"
                  className="plain word"
                  aria-label={`Remove ${f.name}`}
                  onClick={() => set(["page_fields", f.name], null)}
                >
                  Take out
                </button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <form
        className="add-row"
        aria-label="New page field"
        onSubmit={(e) => {
          e.preventDefault();
          set(["page_fields", name], { type, label: label.trim() });
          setLabel("");
        }}
      >
        <TextField
          label="New field"
          value={label}
          onChange={(e) => setLabel(e.target.value)}
          helperText={name && `page.${name}`}
          sx={{ width: 190 }}
        />
        <span>
          of type{" "}
          <Choice
            label="of type"
            value={type}
            choose={setType}
            options={types.map((t) => [t, t])}
          />
        </span>
        <Button
          type="submit"
          variant="outlined"
          color="secondary"
          disabled={!name || fields.some((f) => f.name === name)}
        >
          Add
        </Button>
      </form>
      <p className="soft" style={{ padding: "0 14px" }}>
        A page gives them values in its settings. A block takes one by <code>from: page.NAME</code>;
        where a page has none, the block shows its default.
      </p>
    </div>
  );
}
