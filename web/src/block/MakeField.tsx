import Button from "@mui/material/Button";
import Close from "@mui/icons-material/Close";
import IconButton from "@mui/material/IconButton";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import type { Operation } from "../api/client";
import { Answer } from "../shared/usePending";
import { useLiveOperation } from "../shared/useOperation";
import { nameOf } from "../shared/NewBlock";

/** Makes a field of a piece of a block's markup; the piece is its default. */
export function MakeField({
  block,
  piece,
  text,
  done,
  close,
}: {
  block: string;
  piece: { from: number; to: number };
  text: string;
  done: (title: string, operation: Operation) => void;
  close: () => void;
}) {
  const [title, setTitle] = useState("");
  const field = nameOf(title);
  const live = useLiveOperation(
    field
      ? { operation: "field-from-text", block, piece: { from: piece.from, to: piece.to }, field }
      : null,
    done,
  );
  return (
    <form className="call-panel" aria-label="Make a field of the piece" {...live.form()}>
      <header>
        <b>Make a field of</b> <span className="soft">{text}</span>
        <IconButton size="small" aria-label="Leave it" onClick={close}>
          <Close fontSize="small" />
        </IconButton>
      </header>
      <div className="call-fields">
        <TextField
          autoFocus
          label="Name of the field"
          value={title}
          onChange={(e) => setTitle(e.target.value)}
          helperText={field && `@{=${field}}`}
        />
        <p role="status">
          {field ? (
            <Answer error={live.error} operated={live.operated} />
          ) : (
            <span className="soft">
              It is the default, so no page changes; each can have its own from then on.
            </span>
          )}
        </p>
        <Button
          type="submit"
          variant="contained"
          sx={{ justifySelf: "start" }}
          disabled={!live.savable}
        >
          Make it
        </Button>
      </div>
    </form>
  );
}
