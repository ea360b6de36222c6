import TextField from "@mui/material/TextField";
import { useCallback, useState } from "react";
import { useNavigate } from "react-router";
import type { OperationOf } from "../api/client";
import { useSite } from "../api/queries";
import { LiveForm } from "../shared/LiveForm";
import { useLiveOperation } from "../shared/useOperation";
import { nameOf } from "../shared/NewBlock";

export function NewMenu({ close }: { close: () => void }) {
  const site = useSite();
  const go = useNavigate();
  const [title, setTitle] = useState("");
  const name = nameOf(title);
  const done = useCallback(
    (_: string, o: OperationOf<"new-menu">) => {
      close();
      void go(`/${site}/menus/${o.name}`);
    },
    [close, go, site],
  );
  const live = useLiveOperation(
    name ? { operation: "new-menu", name, title: title.trim() } : null,
    done,
  );
  return (
    <LiveForm
      label="New menu"
      className="move-page"
      live={live}
      act="Make it"
      close={close}
      hint="It shows where a block's menu field names it."
    >
      <TextField
        autoFocus
        label="Title of the menu"
        value={title}
        onChange={(e) => setTitle(e.target.value)}
        helperText={name && `menus/${name}.yaml`}
        error={live.error !== ""}
      />
    </LiveForm>
  );
}
