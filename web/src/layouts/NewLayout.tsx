import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useCallback, useState } from "react";
import { useNavigate } from "react-router";
import type { Layout, OperationOf } from "../api/client";
import { useSite } from "../api/queries";
import { LiveForm } from "../shared/LiveForm";
import { useLiveOperation } from "../shared/useOperation";
import { nameOf } from "../shared/NewBlock";

/** Makes a type of pages, bare or as another one is. */
export function NewLayout({
  layouts,
  from,
  close,
}: {
  layouts: Layout[];
  from: string;
  close: () => void;
}) {
  const site = useSite();
  const go = useNavigate();
  const [title, setTitle] = useState("");
  const [as, setAs] = useState(from);
  const name = nameOf(title);
  const done = useCallback(
    (_: string, o: OperationOf<"new-layout">) => {
      close();
      void go(`/${site}/layouts/${o.name}`);
    },
    [close, go, site],
  );
  const live = useLiveOperation(
    name ? { operation: "new-layout", name, title: title.trim(), layout: as } : null,
    done,
  );
  return (
    <LiveForm
      label="New layout"
      className="move-page"
      live={live}
      act="Make it"
      close={close}
      hint="No page has it until one is given it."
    >
      <TextField
        autoFocus
        label="Title of the layout"
        value={title}
        onChange={(e) => setTitle(e.target.value)}
        helperText={name && `layouts/${name}.html`}
        error={live.error !== ""}
      />
      <TextField
        select
        label="It begins"
        value={as}
        onChange={(e) => setAs(e.target.value)}
        sx={{ width: 190 }}
        slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
      >
        <MenuItem value="">bare, with one region</MenuItem>
        {layouts.map((l) => (
          <MenuItem key={l.name} value={l.name}>
            as {l.title} is
          </MenuItem>
        ))}
      </TextField>
    </LiveForm>
  );
}
