import { useEffect, useRef, useState } from "react";
import { api, unwrap, type Field } from "../api/client";
import { useFields, useSite } from "../api/queries";
import { FieldInput } from "../shared/fields/FieldInput";
import { useChoices } from "../shared/fields/useChoices";
import { begin, end } from "../shared/underWay";

/** The defaults of the fields that a block's text declares. Each edit is made in
 *  that text. */
export function FieldsForm({
  saved,
  text,
  change,
}: {
  saved: Field[];
  text: string;
  change: (t: string) => void;
}) {
  const site = useSite();
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
  if (fields.length === 0)
    return (
      <p className="empty">
        This block has no fields. Declare one in its front matter, as in{" "}
        <code>fields: {"{title: {type: text, default: …}}"}</code>, and write{" "}
        <code>@{"{=title}"}</code> where it stands.
      </p>
    );
  return (
    <div className="fields">
      <p className="soft">What each placement shows where it says nothing else.</p>
      {fields.map((f) => (
        <FieldInput
          key={f.name}
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
      ))}
    </div>
  );
}
