import Autocomplete from "@mui/material/Autocomplete";
import TextField from "@mui/material/TextField";
import { useState, type ReactNode } from "react";
import type { Option } from "./choices";

export interface PickedProps {
  label: string;
  required?: boolean;
  error: boolean;
  helperText: ReactNode;
  value: string;
  change: (value: string) => void;
  options: Option[];
  /** What stands beside an option, as a picture. */
  beside?: (o: Option) => ReactNode;
}

/** How many options are listed; typing finds the others. */
const listed = 200;

/** Those of some options in which all of the words are found, in what is written or its title. */
export function finding(options: Option[], words: string): Option[] {
  const all = words.toLowerCase().split(/\s+/).filter(Boolean);
  const out: Option[] = [];
  for (const o of options) {
    if (out.length === listed) break;
    const text = `${o.value} ${o.title}`.toLowerCase();
    if (all.every((w) => text.includes(w))) out.push(o);
  }
  return out;
}

/** A text that is chosen from what there is, by its title or as it is written, or typed. What it
 *  means is told in words. */
export function Picked({
  label,
  required = false,
  error,
  helperText,
  value,
  change,
  options,
  beside,
}: PickedProps) {
  const [typed, setTyped] = useState(false); // since the list has opened: it shows what fits, else all
  const meant = options.find((o) => o.value === value);
  return (
    <Autocomplete<Option, false, false, true>
      freeSolo
      size="small"
      options={options}
      filterOptions={(_, { inputValue }) => finding(options, meant && !typed ? "" : inputValue)}
      getOptionLabel={(o) => (typeof o === "string" ? o : o.value)}
      isOptionEqualToValue={(a, b) => typeof b !== "string" && a.value === b.value}
      inputValue={value}
      value={meant ?? value}
      onClose={() => setTyped(false)}
      onInputChange={(_, v, why) => {
        if (why === "reset") return;
        setTyped(true);
        change(v);
      }}
      onChange={(_, v) => change(v === null ? "" : typeof v === "string" ? v : v.value)}
      renderOption={({ key, ...props }, o) => (
        <li key={key} {...props}>
          {beside?.(o)}
          <span className="option">
            {o.title && o.title !== o.value ? (
              <>
                <b>{o.title}</b> <code>{o.value}</code>
              </>
            ) : (
              <code>{o.value}</code>
            )}
          </span>
        </li>
      )}
      renderInput={(params) => (
        <TextField
          {...params}
          label={label}
          required={required}
          error={error}
          helperText={
            meant && meant.title && meant.title !== meant.value ? (
              <>
                {meant.title}
                {helperText ? <>; {helperText}</> : null}
              </>
            ) : (
              helperText
            )
          }
        />
      )}
    />
  );
}
