import Down from "@mui/icons-material/ArrowDownward";
import Up from "@mui/icons-material/ArrowUpward";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import TextField from "@mui/material/TextField";
import IconButton from "@mui/material/IconButton";
import { useId, useState, type ReactNode } from "react";
import type { Field } from "../../api/client";

interface Props {
  field: Field;
  set: (keys: string[], value: unknown) => void;
  first: boolean;
  last: boolean;
  /** Moves the field up or down among the others. */
  move: (by: -1 | 1) => void;
  /** What else can be done with it. */
  more: ReactNode;
}

/** What a field is called, what is said of it in forms, and whether every placement needs a value. */
export function Declared({ field, set, first, last, move, more }: Props) {
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
          <span className="order">
            <IconButton
              size="small"
              disabled={first}
              aria-label={`Move ${field.name} up`}
              onClick={() => move(-1)}
            >
              <Up fontSize="small" />
            </IconButton>
            <IconButton
              size="small"
              disabled={last}
              aria-label={`Move ${field.name} down`}
              onClick={() => move(1)}
            >
              <Down fontSize="small" />
            </IconButton>
            {more}
          </span>
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

/** Words that a key of the front matter says; nothing typed takes the key away. */
export function Words({
  label,
  value,
  set,
  rows = 1,
  options = [],
}: {
  label: string;
  value: string;
  set: (v: string | null) => void;
  rows?: number;
  /** What others say, to choose from. */
  options?: string[];
}) {
  const list = useId();
  const [typed, setTyped] = useState<string | null>(null);
  return (
    <TextField
      label={label}
      multiline={rows > 1}
      minRows={rows}
      slotProps={options.length > 0 ? { htmlInput: { list } } : {}}
      value={typed ?? value}
      onChange={(e) => {
        setTyped(e.target.value);
        set(e.target.value || null);
      }}
      onBlur={() => setTyped(null)}
      helperText={
        options.length > 0 && (
          <datalist id={list}>
            {options.map((o) => (
              <option key={o} value={o} />
            ))}
          </datalist>
        )
      }
    />
  );
}
