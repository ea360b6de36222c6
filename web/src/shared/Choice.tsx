import Autocomplete from "@mui/material/Autocomplete";
import MenuItem from "@mui/material/MenuItem";
import Select from "@mui/material/Select";
import TextField from "@mui/material/TextField";

interface Props<V extends string> {
  label: string;
  value: V;
  choose: (value: V) => void;
  options: readonly (readonly [value: V, words: string])[];
  /** What stands there while nothing is chosen. */
  prompt?: string;
  className?: string;
  disabled?: boolean;
}

/** More than these are not looked through but typed. */
const few = 40;

/** One of a few things, chosen in a line of words or a bar. Nothing happens while one moves through
 *  them: a choice is made with Enter or a click. */
export function Choice<V extends string>(props: Props<V>) {
  const { label, value, choose, options, prompt, className = "", disabled = false } = props;
  if (options.length > few) return <OneOfMany {...props} />;
  return (
    <Select<V>
      size="small"
      className={`choice ${className}`}
      value={value}
      disabled={disabled}
      displayEmpty
      onChange={(e) => choose(e.target.value as V)}
      SelectDisplayProps={{ "aria-label": label }}
    >
      {prompt !== undefined && (
        <MenuItem value="" disabled sx={{ display: "none" }}>
          {prompt}
        </MenuItem>
      )}
      {options.map(([v, words]) => (
        <MenuItem key={v} value={v} dense>
          <span dir="auto">{words}</span>
        </MenuItem>
      ))}
    </Select>
  );
}

/** One of many things, found by typing any part of its words. */
function OneOfMany<V extends string>(props: Props<V>) {
  const { label, value, choose, options, prompt, className = "", disabled = false } = props;
  const now = options.find(([v]) => v === value) ?? null;
  return (
    <Autocomplete
      size="small"
      className={`choice page-pick ${className}`}
      autoHighlight
      disabled={disabled}
      options={options}
      value={now}
      onChange={(_, o) => o && choose(o[0])}
      isOptionEqualToValue={([a], [b]) => a === b}
      getOptionKey={([v]) => v}
      getOptionLabel={([, words]) => words}
      renderOption={({ key, ...row }, [, words]) => (
        <li key={key} {...row}>
          <span dir="auto">{words}</span>
        </li>
      )}
      slotProps={{ popper: { placement: "bottom-end", style: { width: 340 } } }}
      renderInput={(params) => (
        <TextField
          {...params}
          placeholder={prompt ?? ""}
          slotProps={{
            ...params.slotProps,
            htmlInput: { ...params.slotProps.htmlInput, "aria-label": label },
          }}
        />
      )}
    />
  );
}
