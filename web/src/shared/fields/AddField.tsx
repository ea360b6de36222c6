import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { fieldTypes, type Field, type FieldType } from "../../api/client";
import { nameOf } from "../NewBlock";
import type { KeyValue } from "../useTextEdits";
import { declarable, declaration, showing, type NewField } from "./newField";

interface Props {
  fields: Field[];
  setAll: (edits: KeyValue[]) => void;
  /** Puts markup where the cursor stood last in the block's markup; missing for values of the site. */
  show?: (markup: string) => void;
}

/** Declares a field of the block, and shows it in the markup. */
export function AddField({ fields, setAll, show }: Props) {
  const [label, setLabel] = useState("");
  const [type, setType] = useState<FieldType>("text");
  const [parts, setParts] = useState("");
  const [added, setAdded] = useState<NewField | null>(null);
  const field = { name: nameOf(label), label, type, parts };
  const several = type === "choice" || type === "list";
  const there = added !== null && fields.some((f) => f.name === added.name);
  return (
    <>
      <form
        className="add-field"
        aria-label="New field"
        onSubmit={(e) => {
          e.preventDefault();
          if (!declarable(field, names(fields))) return;
          const { type: of, ...more } = declaration(field);
          setAll([
            { keys: ["fields", field.name], value: { type: of } },
            ...Object.entries(more).map(([key, value]) => ({
              keys: ["fields", field.name, key],
              value,
            })),
          ]);
          setAdded(field);
          setLabel("");
          setParts("");
        }}
      >
        <TextField
          label="New field"
          value={label}
          onChange={(e) => setLabel(e.target.value)}
          helperText={field.name && `@{=${show ? "" : "site."}${field.name}}`}
        />
        <TextField
          select
          label="Type"
          value={type}
          onChange={(e) => setType(e.target.value as FieldType)}
        >
          {fieldTypes.map((t) => (
            <MenuItem key={t} value={t}>
              {t}
            </MenuItem>
          ))}
        </TextField>
        {several && (
          <TextField
            label={type === "choice" ? "Choices" : "Fields of an entry"}
            value={parts}
            onChange={(e) => setParts(e.target.value)}
            helperText="with commas between"
          />
        )}
        <Button
          type="submit"
          variant="outlined"
          color="secondary"
          disabled={!declarable(field, names(fields))}
        >
          Add
        </Button>
      </form>
      {there && (
        <p className="added-field" role="status">
          {added.label.trim() || added.name} is declared and stands nowhere yet.{" "}
          {show ? (
            <Button
              onClick={() => {
                show(showing(added));
                setAdded(null);
              }}
            >
              Show it in the markup
            </Button>
          ) : (
            <>
              Any text shows it by <code>{`@{=site.${added.name}}`}</code>, and a field of a block
              takes it by <code>{`from: site.${added.name}`}</code>.
            </>
          )}
        </p>
      )}
    </>
  );
}

const names = (fields: Field[]) => fields.map((f) => f.name);
