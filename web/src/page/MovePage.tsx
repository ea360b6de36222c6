import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import type { OperationOf, Page } from "../api/client";
import { Sentence } from "../shared/Say";
import { LiveForm } from "../shared/LiveForm";
import { useLiveOperation } from "../shared/useOperation";

/** The document for an address that somebody types: /fares/day/ is
 *  pages/fares/day.html. */
export function docOf(address: string): string {
  const bare = address.trim().replace(/^\/+|\/+$/g, "");
  return `pages/${bare.endsWith(".html") ? bare : `${bare}.html`}`;
}

/** Gives a page another address; every link follows. */
export function MovePage({
  page,
  close,
  done,
}: {
  page: Page;
  close: () => void;
  done: (title: string, operation: OperationOf<"move-page">) => void;
}) {
  const [address, setAddress] = useState(page.path);
  const [redirect, setRedirect] = useState(true);
  const to = docOf(address);
  const live = useLiveOperation(
    address.trim() && address !== page.path
      ? { operation: "move-page", doc: page.doc, to, redirect }
      : null,
    done,
  );
  const files = live.operated?.change_set.changes.length ?? 0;
  return (
    <LiveForm
      label="Move the page"
      className="move-page"
      live={live}
      act="Move"
      close={close}
      hint="Links, menus and rules that name it are updated."
      told={
        live.operated?.proposal.impact && (
          <>
            <Sentence text={live.operated.proposal.impact.sentence} />{" "}
            <span className="soft">
              Updates links in {files} {files === 1 ? "file" : "files"}.
            </span>
          </>
        )
      }
    >
      <TextField
        autoFocus
        label="New address"
        value={address}
        onChange={(e) => setAddress(e.target.value)}
        error={live.error !== ""}
        sx={{ width: 260 }}
      />
      <FormControlLabel
        control={
          <Checkbox size="small" checked={redirect} onChange={() => setRedirect(!redirect)} />
        }
        label="Keep a redirect at the old address"
      />
    </LiveForm>
  );
}
