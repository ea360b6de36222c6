import Autocomplete from "@mui/material/Autocomplete";
import TextField from "@mui/material/TextField";

export interface PickedProps {
  label: string;
  error: boolean;
  helperText: string;
  value: string;
  change: (value: string) => void;
  options: string[];
}

/** A text that is chosen from what there is, or typed. */
export function Picked({ label, error, helperText, value, change, options }: PickedProps) {
  return (
    <Autocomplete
      freeSolo
      size="small"
      options={options.slice(0, 2000)}
      inputValue={value}
      value={value}
      onInputChange={(_, v, why) => why !== "reset" && change(v)}
      onChange={(_, v) => change(v ?? "")}
      renderInput={(params) => (
        <TextField {...params} label={label} error={error} helperText={helperText} />
      )}
    />
  );
}
