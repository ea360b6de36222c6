import { useEffect, useRef, useState } from "react";
import { api, unwrap, type Field } from "../api/client";
import { useFields, useSite } from "../api/queries";
import { FieldInput } from "../shared/fields/FieldInput";
import { useChoices } from "../shared/fields/useChoices";
import { begin, end } from "../shared/underWay";
import { useKeyEdits } from "../shared/useTextEdits";
import { AddField } from "./AddField";
import { Declared } from "./Declared";
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
  const site = useSite();
  const keys = useKeyEdits(path, text, change);
  const choices = useChoices();
  const fields = useFields(text) ?? saved;
  const [wrong, setWrong] = useState<Record<string, string>>({});
  const [typed, setTyped] = useState<Record<string, string>>({});
  const latest = useRef(0);
  const made = useRef(text);
  useEffect(() => {
    if (text === made.current) return;
    made.current = text; // edited elsewhere, or discarded
    setTyped({});
    setWrong({});
  }, [text]);
  const put = (field: Field, value: string) => {
    const turn = ++latest.current;
    begin();
    setTyped((t) => ({ ...t, [field.name]: value }));
    api
      .POST("/sites/{site}/defaults", {
        params: { path: { site } },
        body: { text, field: field.name, value },
      })
      .then((a) => {
        if (turn !== latest.current) return; // a later key has asked since
        made.current = unwrap(a).text;
        change(made.current);
        setWrong((w) => ({ ...w, [field.name]: "" }));
      })
      .catch(
        (e: unknown) =>
          turn === latest.current &&
          setWrong((w) => ({ ...w, [field.name]: (e as Error).message })),
      )
      .finally(end);
  };
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
