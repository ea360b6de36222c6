import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import Close from "@mui/icons-material/Close";
import FormControlLabel from "@mui/material/FormControlLabel";
import IconButton from "@mui/material/IconButton";
import TextField from "@mui/material/TextField";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, unwrap, type OperationOf } from "../api/client";
import { useSite } from "../api/queries";
import { Sentence } from "../shared/Say";
import { useLiveOperation } from "../shared/useOperation";
import { nameOf } from "../shared/NewBlock";

interface Props {
  doc: string;
  piece: { from: number; to: number }; // in bytes
  close: () => void;
  done: (title: string, operation: OperationOf<"block-from-piece">) => void;
}

/** Makes a block of a piece of a page: which of its texts, links and images become
 *  fields, and whether the spot is linked from then on. */
export function MakeBlock({ doc, piece, close, done }: Props) {
  const site = useSite();
  const [title, setTitle] = useState("");
  const [category, setCategory] = useState("");
  const [fields, setFields] = useState<ReadonlySet<string>>(new Set());
  const [stays, setStays] = useState(false);
  const parts = useQuery({
    queryKey: [site, "piece", doc, piece.from, piece.to],
    queryFn: async () =>
      unwrap(
        await api.POST("/sites/{site}/pieces", {
          params: { path: { site } },
          body: { doc, piece: { from: piece.from, to: piece.to } },
        }),
      ),
    retry: false,
  });
  const name = nameOf(title);
  const live = useLiveOperation(
    name && parts.data
      ? {
          operation: "block-from-piece",
          doc,
          piece: { from: piece.from, to: piece.to },
          block: name,
          title: title.trim(),
          category,
          fields: [...fields],
          stays,
        }
      : null,
    done,
  );
  const tick = (field: string) =>
    setFields((f) =>
      f.has(field) ? new Set([...f].filter((x) => x !== field)) : new Set([...f, field]),
    );
  return (
    <form className="call-panel" aria-label="Make a block of the piece" {...live.form()}>
      <header>
        <b>Make a block of the piece</b>
        <IconButton size="small" aria-label="Leave it" onClick={close}>
          <Close fontSize="small" />
        </IconButton>
      </header>
      {parts.error ? (
        <p className="bad-text" role="alert" style={{ padding: "0 10px" }}>
          {parts.error.message}
        </p>
      ) : (
        <div className="call-fields">
          <TextField
            autoFocus
            label="Title"
            value={title}
            onChange={(e) => setTitle(e.target.value)}
            helperText={name && `@{${name} /}`}
          />
          <TextField
            label="Category"
            value={category}
            onChange={(e) => setCategory(e.target.value)}
          />
          <div className="ticks" role="group" aria-label="What becomes a field">
            {parts.data?.map((p) => (
              <FormControlLabel
                key={p.field}
                control={
                  <Checkbox
                    size="small"
                    checked={fields.has(p.field)}
                    onChange={() => tick(p.field)}
                  />
                }
                label={
                  <>
                    {p.value} <span className="soft">{p.field}</span>
                  </>
                }
              />
            ))}
          </div>
          <FormControlLabel
            control={<Checkbox size="small" checked={!stays} onChange={() => setStays(!stays)} />}
            label="The spot becomes linked"
          />
          <p role="status">
            {live.error ? (
              <span className="bad-text">{live.error}</span>
            ) : live.operated?.proposal.impact ? (
              <Sentence text={live.operated.proposal.impact.sentence} />
            ) : (
              <span className="soft">The bytes of the page stay the same.</span>
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
      )}
    </form>
  );
}
