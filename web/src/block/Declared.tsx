import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import type { Field } from "../api/client";

interface Props {
  field: Field;
  set: (keys: string[], value: unknown) => void;
}

/** What a field is called, what is said of it in forms, and whether every placement needs a value. */
export function Declared({ field, set }: Props) {
  const [open, setOpen] = useState(false);
  const [asked, setAsked] = useState<boolean | null>(null); // until the text says so
  if (asked === field.required) setAsked(null);
  const key = (name: string) => ["fields", field.name, name];
  return (
    <details onToggle={(e) => setOpen(e.currentTarget.open)}>
      <summary>
        <span className="mono">{field.name}</span> <span className="soft">{field.type}</span>
      </summary>
      {open && (
        <div className="declaration">
          <Words
            label="Label"
            value={field.label === field.name ? "" : field.label}
            set={(v) => set(key("label"), v)}
          />
          <Words label="Help" value={field.help} set={(v) => set(key("help"), v)} />
          <FormControlLabel
            label="Every placement needs a value"
            control={
              <Checkbox
                size="small"
                checked={asked ?? field.required}
                onChange={(e) => {
                  setAsked(e.target.checked);
                  set(key("required"), e.target.checked || null);
                }}
              />
            }
          />
        </div>
      )}
    </details>
  );
}

function Words({
  label,
  value,
  set,
}: {
  label: string;
  value: string;
  set: (v: string | null) => void;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  return (
    <TextField
      label={label}
      value={typed ?? value}
      onChange={(e) => {
        setTyped(e.target.value);
        set(e.target.value || null);
      }}
      onBlur={() => setTyped(null)}
    />
  );
}
