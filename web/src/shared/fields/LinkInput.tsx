import FormControlLabel from "@mui/material/FormControlLabel";
import Switch from "@mui/material/Switch";
import TextField from "@mui/material/TextField";
import { readLink, writeLink } from "./link";
import { Picked } from "./Picked";

/** Where a link leads (a page, an address, #id), what it is called, and in which
 *  tab it opens. */
export function LinkInput({
  label,
  error,
  helperText,
  value,
  change,
  pages,
}: {
  label: string;
  error: boolean;
  helperText: string;
  value: string;
  change: (value: string) => void;
  pages: string[];
}) {
  const link = readLink(value);
  const put = (part: Partial<typeof link>) => change(writeLink({ ...link, ...part }));
  return (
    <fieldset className="link-input">
      <Picked
        label={label}
        error={error}
        helperText={helperText}
        value={link.to}
        change={(to) => put({ to })}
        options={pages}
      />
      <TextField
        label="Called"
        value={link.label}
        onChange={(e) => put({ label: e.target.value })}
      />
      <FormControlLabel
        label="New tab"
        control={
          <Switch
            size="small"
            checked={link.newTab}
            onChange={(e) => put({ newTab: e.target.checked })}
          />
        }
      />
    </fieldset>
  );
}
