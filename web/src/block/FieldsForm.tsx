import MenuItem from "@mui/material/MenuItem";
import Switch from "@mui/material/Switch";
import FormControlLabel from "@mui/material/FormControlLabel";
import TextField from "@mui/material/TextField";
import { useRef, useState } from "react";
import { api, unwrap, type Field } from "../api/client";
import { useSite } from "../api/queries";

/** The defaults of a block's fields. Each edit is made in the block's text. */
export function FieldsForm({ fields, text, change }: { fields: Field[]; text: string; change: (t: string) => void }) {
  const site = useSite();
  const [wrong, setWrong] = useState<Record<string, string>>({});
  const [typed, setTyped] = useState<Record<string, string>>({});
  const latest = useRef(0);
  const put = (field: Field, value: string) => {
    const turn = ++latest.current;
    setTyped((t) => ({ ...t, [field.name]: value }));
    api.POST("/sites/{site}/defaults", { params: { path: { site } }, body: { text, field: field.name, value } })
      .then((a) => {
        if (turn !== latest.current) return; // a later key has asked since
        change(unwrap(a).text);
        setWrong((w) => ({ ...w, [field.name]: "" }));
      })
      .catch((e: unknown) => turn === latest.current && setWrong((w) => ({ ...w, [field.name]: (e as Error).message })));
  };
  if (fields.length === 0) return <p className="empty">This block has no fields. Declare one in its front matter, as in <code>fields: {"{title: {type: text, default: …}}"}</code>, and write <code>@{"{=title}"}</code> where it stands.</p>;
  return (
    <div className="fields">
      <p className="soft">What each placement shows where it says nothing else.</p>
      {fields.map((f) => {
        const value = typed[f.name] ?? f.default_text;
        const help = wrong[f.name] ?? "";
        const about = help || [f.help, f.from && `taken from ${f.from} where that is set`, f.required && "required"].filter(Boolean).join("; ") || f.type;
        if (f.type === "switch") {
          return <FormControlLabel key={f.name} label={f.label} control={<Switch size="small" checked={value === "true"} onChange={(e) => put(f, String(e.target.checked))} />} />;
        }
        return (
          <TextField key={f.name} label={f.label} value={value} error={help !== ""} helperText={about} multiline={f.type === "lines" || f.type === "rich" || f.type === "list"}
            select={f.type === "choice"} onChange={(e) => put(f, e.target.value)} slotProps={{ htmlInput: { "data-field": f.name } }}>
            {f.type === "choice" ? f.choices.map((c) => <MenuItem key={c} value={c}>{c}</MenuItem>) : null}
          </TextField>
        );
      })}
    </div>
  );
}
