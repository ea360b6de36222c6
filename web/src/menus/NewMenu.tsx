import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useCallback, useState } from "react";
import { useNavigate } from "react-router";
import type { OperationOf } from "../api/client";
import { useSite } from "../api/queries";
import { Answer } from "../shared/usePending";
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
    <form className="move-page" aria-label="New menu" {...live.form(close)}>
      <TextField
        autoFocus
        label="Title of the menu"
        value={title}
        onChange={(e) => setTitle(e.target.value)}
        helperText={name && `menus/${name}.yaml`}
        error={live.error !== ""}
      />
      <p role="status">
        {live.operated || live.error ? (
          <Answer error={live.error} operated={live.operated} />
        ) : (
          <span className="soft">It shows where a block&apos;s menu field names it.</span>
        )}
      </p>
      <span className="end">
        <Button type="submit" variant="contained" disabled={!live.savable}>
          Make it
        </Button>{" "}
        <Button color="secondary" onClick={close}>
          Leave it
        </Button>
      </span>
    </form>
  );
}
