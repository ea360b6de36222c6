import FormControlLabel from "@mui/material/FormControlLabel";
import MenuItem from "@mui/material/MenuItem";
import Switch from "@mui/material/Switch";
import TextField from "@mui/material/TextField";
import type { Field } from "../../api/client";
import { Suspense, useState } from "react";
import { useOverview } from "../../api/queries";
import { LinkInput } from "./LinkInput";
import { ListInput } from "./ListInput";
import type { Choices } from "./choices";
import { RichInput } from "./RichInput";
import { Picked, type PickedProps } from "./Picked";
import { DateInput } from "./laterDate";

interface Props {
  field: Field;
  value: string;
  change: (value: string) => void;
  choices: Choices;
  wrong?: string;
  about?: string;
  /** Whether a value has to be said here. */
  required?: boolean;
}

const pictures = /\.(svg|png|jpe?g|gif|webp|avif)$/i;

/** The editor that fits the type of a field. Values are texts as a person types
 *  them; lists, and links with a label, are JSON. */
export function FieldInput({
  field,
  value,
  change,
  choices,
  wrong = "",
  about = "",
  required = false,
}: Props) {
  const common = {
    label: field.label,
    required,
    error: wrong !== "",
    helperText: wrong || [about, limits(field)].filter(Boolean).join("; "),
  };
  switch (field.type) {
    case "switch":
      return (
        <FormControlLabel
          label={field.label}
          control={
            <Switch
              size="small"
              checked={value === "true"}
              onChange={(e) => change(String(e.target.checked))}
            />
          }
        />
      );
    case "choice":
      return (
        <TextField select {...common} value={value} onChange={(e) => change(e.target.value)}>
          {field.choices.map((c) => (
            <MenuItem key={c} value={c}>
              {c}
            </MenuItem>
          ))}
        </TextField>
      );
    case "rich":
      return <RichInput {...common} value={value} change={change} pages={choices.pages} />;
    case "lines":
      return (
        <TextField
          multiline
          minRows={2}
          {...common}
          value={value}
          onChange={(e) => change(e.target.value)}
        />
      );
    case "number":
      return (
        <TextField
          {...common}
          value={value}
          onChange={(e) => change(e.target.value)}
          slotProps={{ htmlInput: { inputMode: "decimal" } }}
        />
      );
    case "date":
      return (
        <Suspense>
          <DateInput {...common} value={value} change={change} min={field.min} max={field.max} />
        </Suspense>
      );
    case "colour":
      return <ColourInput {...common} value={value} change={change} />;
    case "image":
      return (
        <ImageInput
          {...common}
          value={value}
          change={change}
          options={choices.assets
            .filter((a) => pictures.test(a))
            .map((a) => ({ value: a, title: a.slice(a.lastIndexOf("/") + 1) }))}
        />
      );
    case "page":
      return <Picked {...common} value={value} change={change} options={choices.pages} />;
    case "menu":
      return <Picked {...common} value={value} change={change} options={choices.menus} />;
    case "link":
      return <LinkInput {...common} value={value} change={change} pages={choices.pages} />;
    case "list":
      return (
        <ListInput
          field={field}
          value={value}
          change={change}
          wrong={wrong}
          each={(sub, text, set) => (
            <FieldInput key={sub.name} field={sub} choices={choices} value={text} change={set} />
          )}
        />
      );
  }
  return <TextField {...common} value={value} onChange={(e) => change(e.target.value)} />;
}

/** An image of the assets, seen beside its address. */
function ImageInput(props: PickedProps) {
  const overview = useOverview();
  const origin = overview.data?.site_origin;
  const there = props.options.some((o) => o.value === props.value);
  const [size, setSize] = useState({ of: "", words: "" });
  return (
    <div className="image-input">
      <Picked
        {...props}
        helperText={
          size.of === props.value ? (
            <>
              {props.helperText && <>{props.helperText}; </>}
              {size.words}
            </>
          ) : (
            props.helperText
          )
        }
        beside={(o) => (
          <img className="option-image" src={`${origin}/_draft${o.value}`} alt="" loading="lazy" />
        )}
      />
      {there && origin && (
        <img
          src={`${origin}/_draft${props.value}`}
          alt=""
          onLoad={(e) => {
            const { naturalWidth: w, naturalHeight: h } = e.currentTarget;
            setSize({ of: props.value, words: w > 0 ? `${w} × ${h} pixels` : "" });
          }}
        />
      )}
    </div>
  );
}

/** What limits a value, in words. */
export function limits(f: Field): string {
  const of =
    f.type === "list" ? " items" : f.type === "number" || f.type === "date" ? "" : " characters";
  if (f.min && f.max) return `${f.min} to ${f.max}${of}`;
  return f.min ? `at least ${f.min}${of}` : f.max ? `at most ${f.max}${of}` : "";
}

function ColourInput({
  label,
  required = false,
  error,
  helperText,
  value,
  change,
}: Omit<PickedProps, "options">) {
  return (
    <div className="colour-input">
      <input
        type="color"
        aria-label={`${label}: choose`}
        value={/^#[0-9a-f]{6}$/i.test(value) ? value : "#888888"}
        onChange={(e) => change(e.target.value)}
      />
      <TextField
        label={label}
        required={required}
        error={error}
        value={value}
        onChange={(e) => change(e.target.value)}
        helperText={helperText}
      />
    </div>
  );
}
