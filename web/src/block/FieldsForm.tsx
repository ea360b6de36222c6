import { Link } from "react-router";
import type { Field } from "../api/client";
import { useFields } from "../api/queries";
import { AddField } from "../shared/fields/AddField";
import { Declared } from "../shared/fields/Declared";
import { FieldInput } from "../shared/fields/FieldInput";
import { useChoices } from "../shared/fields/useChoices";
import { useDefaults } from "../shared/fields/useDefaults";
import { useKeyEdits } from "../shared/useTextEdits";
import { Described } from "./Described";

interface Props {
  path: string;
  saved: Field[];
  text: string;
  change: (t: string) => void;
  /** Puts markup where the cursor stood last. */
  show: (markup: string) => void;
}

/** The fields that a block's text declares: their defaults, what they are called, and new ones.
 *  Each edit is made in that text. */
export function FieldsForm({ path, saved, text, change, show }: Props) {
  const keys = useKeyEdits(path, text, change);
  const choices = useChoices();
  const fields = useFields(text) ?? saved;
  const { typed, wrong, put } = useDefaults(path, text, change);
  return (
    <div className="fields">
      <p className="soft">
        {fields.length === 0
          ? "This block has no fields yet: values that each placement can have its own of."
          : "What each placement shows where it says nothing else."}
      </p>
      <Described text={text} set={keys.set} />
      {fields.map((f, i) => (
        <div key={f.name} className="declared">
          <FieldInput
            field={f}
            value={typed[f.name] ?? f.default_text}
            change={(v) => put(f, v)}
            choices={choices}
            wrong={wrong[f.name] ?? ""}
            about={
              [f.help, f.from && `taken from ${f.from} where that is set`, f.required && "required"]
                .filter(Boolean)
                .join("; ") || f.type
            }
          />
          <Declared
            field={f}
            set={keys.set}
            first={i === 0}
            last={i === fields.length - 1}
            move={(by) => keys.setAll([{ keys: ["fields", f.name], value: null, before: i + by }])}
            more={
              <Link to={`?tab=manage&field=${f.name}`}>Another name or type, or take it out</Link>
            }
          />
        </div>
      ))}
      {keys.wrong && (
        <p className="bad-text" role="alert">
          {keys.wrong}
        </p>
      )}
      <AddField fields={fields} setAll={keys.setAll} show={show} />
    </div>
  );
}
