import MenuItem from "@mui/material/MenuItem";
import Select from "@mui/material/Select";

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

/** One of a few things, chosen in a line of words or a bar. Nothing happens while one moves through
 *  them: a choice is made with Enter or a click. */
export function Choice<V extends string>(props: Props<V>) {
  const { label, value, choose, options, prompt, className = "", disabled = false } = props;
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
