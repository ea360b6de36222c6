import FormControlLabel from "@mui/material/FormControlLabel";
import Switch from "@mui/material/Switch";
import TextField from "@mui/material/TextField";
import { readLink, writeLink } from "./link";
import { useOverlays, useOverview } from "../../api/queries";
import type { Option } from "./choices";
import { Picked } from "./Picked";

/** Where a link leads (a page, an address, #id), what it is called, and in which
 *  tab it opens. */
export function LinkInput({
  label,
  required = false,
  error,
  helperText,
  value,
  change,
  pages,
}: {
  label: string;
  required?: boolean;
  error: boolean;
  helperText: string;
  value: string;
  change: (value: string) => void;
  pages: Option[];
}) {
  const link = readLink(value);
  const overlays = useOverlays();
  const overview = useOverview().data;
  const all = overview?.pages.length ?? 0;
  const over = overlays.data?.find((o) => `#${o.id}` === link.to);
  const lacking = over && overview ? overview.pages.filter((_, i) => over.hosts[i] !== "h") : [];
  const options: Option[] = [
    ...(overlays.data ?? []).map((o) => ({
      value: `#${o.id}`,
      title: `${o.title}, opens over the page; on ${o.pages} of ${all} pages`,
    })),
    ...pages,
  ];
  const put = (part: Partial<typeof link>) => change(writeLink({ ...link, ...part }));
  return (
    <fieldset className="link-input">
      <Picked
        label={label}
        required={required}
        error={error}
        helperText={
          over && lacking.length > 0 ? (
            <>
              {helperText && <>{helperText}; </>}not hosted on{" "}
              {lacking
                .slice(0, 3)
                .map((p) => p.title)
                .join(", ")}
              {lacking.length > 3 && ` and ${lacking.length - 3} more`}
            </>
          ) : (
            helperText
          )
        }
        value={link.to}
        change={(to) => put({ to })}
        options={options}
      />
      <TextField
        label="Words of the link"
        value={link.label}
        onChange={(e) => put({ label: e.target.value })}
      />
      <FormControlLabel
        label="Opens in a new tab"
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
