import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useRef, useState } from "react";
import { Link } from "react-router";
import type { Operation, Overview, Schemas } from "../api/client";
import { EditBar } from "../shared/EditBar";
import { SourceBox } from "../shared/editor/SourceBox";
import { placesOf } from "../shared/placeOf";
import { useBench } from "../shared/useBench";
import { sized, type SiteFile } from "./incoming";

interface Props {
  file: SiteFile | undefined;
  uses: Schemas["FileUses"] | undefined;
  overview: Overview;
  ask: (verb: string, operation: Operation) => void;
  replace: (file: File) => void;
}

/** One file: what it is, what names it, and what can be done with it. */
export function FileBench({ file, uses, overview, ask, replace }: Props) {
  const [to, setTo] = useState(file?.path ?? "");
  const [moving, setMoving] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  if (!file)
    return (
      <div className="panel">
        <p className="empty">
          Choose a file to see it, where it stands and what names it. A file can have 40 MB.
        </p>
      </div>
    );
  const url = `${overview.site_origin}${file.url}`;
  const named = uses ? placesOf(overview.name, uses.docs, overview) : [];
  return (
    <section className="panel file-bench" aria-label={`The file ${file.path}`}>
      <div className="bar">
        <b>{file.path}</b>
        <span className="right">
          <a href={url} target="_blank" rel="noreferrer">
            Open it
          </a>
        </span>
        {/\.(svg|png|jpe?g|gif|webp|avif)$/i.test(file.path) && (
          <Button
            size="small"
            component={Link}
            to={`/${overview.name}/roll-out?calls=${encodeURIComponent(
              `@{image src=${JSON.stringify(file.url)} alt="" /}`,
            )}`}
          >
            Show it on pages
          </Button>
        )}
        <Button size="small" onClick={() => input.current?.click()}>
          Replace
        </Button>
        <Button size="small" aria-expanded={moving} onClick={() => setMoving(!moving)}>
          Move
        </Button>
        <Button
          size="small"
          onClick={() => ask("Delete it", { operation: "delete-file", path: file.path })}
        >
          Delete
        </Button>
        <input
          ref={input}
          type="file"
          hidden
          aria-label={`What replaces ${file.path}`}
          onChange={(e) => {
            const [one] = e.target.files ?? [];
            if (one) replace(one);
            e.target.value = "";
          }}
        />
      </div>
      {moving && (
        <form
          className="add-row"
          aria-label="Another path"
          onSubmit={(e) => {
            e.preventDefault();
            ask("Move it", { operation: "move-file", path: file.path, to: to.trim() });
          }}
        >
          <TextField
            autoFocus
            label="Path"
            value={to}
            onChange={(e) => setTo(e.target.value)}
            helperText="What names it follows. Below assets/ or files/."
          />
          <Button
            type="submit"
            variant="outlined"
            color="secondary"
            disabled={to.trim() === file.path || !to.trim()}
          >
            What that changes
          </Button>
        </form>
      )}
      <p className="file-facts">
        {file.width > 0 && `${file.width} × ${file.height} pixels, `}
        {sized(file.size)}.{" "}
        {uses ? (
          <>
            {uses.pages === 0
              ? "No page shows it or leads to it."
              : `${uses.pages} ${uses.pages === 1 ? "page shows it or leads" : "pages show it or lead"} to it.`}{" "}
            {named.length > 0 && (
              <>
                Named by{" "}
                {named.slice(0, 8).map((k, i) => (
                  <span key={k.to}>
                    {i > 0 && ", "}
                    <Link to={k.to}>{k.title}</Link>
                  </span>
                ))}
                {named.length > 8 && ` and ${named.length - 8} more`}.
              </>
            )}
          </>
        ) : (
          <span className="soft">Looking where it stands…</span>
        )}
      </p>
      {/\.svg$/i.test(file.path) && (
        <div className="file-picture small">
          <img src={`${url}?${file.hash.slice(0, 8)}`} alt={`The picture ${file.path}`} />
        </div>
      )}
      {file.text ? (
        <TextFile path={file.path} />
      ) : /\.(png|jpe?g|gif|webp|avif|ico)$/i.test(file.path) ? (
        <div className="scroll file-picture">
          <img src={`${url}?${file.hash.slice(0, 8)}`} alt={`The picture ${file.path}`} />
        </div>
      ) : (
        <p className="empty">It can be opened and replaced, not edited here.</p>
      )}
    </section>
  );
}

/** A file of text, edited in place. */
function TextFile({ path }: { path: string }) {
  const { text, edit, impact, problems, savable, save } = useBench(path, `Edit ${path}`);
  return (
    <>
      {edit.dirty && (
        <EditBar
          impact={impact}
          problems={problems}
          drop={text.drop}
          savable={savable}
          save={save}
        />
      )}
      <SourceBox path={path} doc={text} problems={problems} />
    </>
  );
}
