import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { Link } from "react-router";
import type { Block, BlockSummary, Operated, OperationOf } from "../api/client";
import type { Swap } from "../shared/copies/acts";
import { useSite } from "../api/queries";
import { Swapping } from "../shared/copies/Swapping";
import { Sentence } from "../shared/Say";
import { useLiveOperation } from "../shared/useOperation";
import type { WallSubject } from "../shared/wall/subject";
import { ManageFields } from "./ManageFields";

type Done = (
  title: string,
  operation: OperationOf<"rename-block" | "duplicate-block" | "delete-block">,
) => void;

/** Renaming, duplicating and deleting a block, and what becomes of its fields, each with
 *  what it does before it is done. done leads elsewhere, changed stays. */
export function Manage({
  block,
  linked,
  blocks,
  idle,
  done,
  changed,
}: {
  block: Block;
  linked: number;
  blocks: BlockSummary[];
  idle: WallSubject;
  done: Done;
  changed: (title: string) => void;
}) {
  const take = `/${useSite()}/parts?of=${encodeURIComponent(`blocks/${block.name}.html`)}`;
  return (
    <div className="scroll manage">
      <Named
        block={block.name}
        operation="rename-block"
        title="Rename"
        label="New name"
        about="Every call, rule, override, copy and sample follows."
        done={done}
      />
      <Named
        block={block.name}
        operation="duplicate-block"
        title="Duplicate"
        label="Name of the duplicate"
        about="Its markup, fields, style and behaviour, under another name; it stands nowhere yet."
        done={done}
      />
      <section className="manage-row" aria-label="Another site">
        <h2>Another site</h2>
        <Button component={Link} to={take} variant="outlined" color="secondary">
          Take it there
        </Button>
        <div className="soft">
          With all that it needs: blocks that it calls, files, menus, values of the site.
        </div>
        <span />
      </section>
      <ManageFields block={block.name} fields={block.fields} idle={idle} done={changed} />
      <Merge block={block} blocks={blocks} done={changed} />
      <Delete block={block} linked={linked} done={done} />
    </div>
  );
}

function Named({
  block,
  operation,
  title,
  label,
  about,
  done,
}: {
  block: string;
  operation: "rename-block" | "duplicate-block";
  title: string;
  label: string;
  about: string;
  done: Done;
}) {
  const [to, setTo] = useState("");
  const live = useLiveOperation(to ? { operation, block, to } : null, done);
  const files = live.operated?.change_set.changes.filter((c) => !c.delete).length ?? 0;
  return (
    <form className="manage-row" aria-label={title} {...live.form()}>
      <h2>{title}</h2>
      <TextField
        label={label}
        value={to}
        onChange={(e) => setTo(e.target.value)}
        error={live.error !== ""}
        slotProps={{ htmlInput: { spellCheck: false } }}
      />
      <div role="status">
        {live.error ? (
          <span className="bad-text">{live.error}</span>
        ) : live.operated ? (
          <>
            <Sentence text={live.operated.proposal.impact?.sentence ?? ""} />{" "}
            <span className="soft">
              {files} {files === 1 ? "document" : "documents"} written.
            </span>
          </>
        ) : (
          <span className="soft">{about}</span>
        )}
      </div>
      <Button type="submit" variant="contained" disabled={!live.savable}>
        {title}
      </Button>
    </form>
  );
}

function Merge({
  block,
  blocks,
  done,
}: {
  block: Block;
  blocks: BlockSummary[];
  done: (title: string) => void;
}) {
  const [other, setOther] = useState("");
  const live = useLiveOperation(
    other ? { operation: "merge-blocks", block: block.name, other } : null,
    (title: string) => {
      setOther("");
      done(title);
    },
  );
  const fields = live.operated?.answer === "merged" ? live.operated.fields : [];
  return (
    <form className="manage-row" aria-label="Merge" {...live.form()}>
      <h2>Merge</h2>
      <TextField
        select
        label="Block that is nearly the same"
        value={other}
        onChange={(e) => setOther(e.target.value)}
        error={live.error !== ""}
      >
        <MenuItem value="">none</MenuItem>
        {blocks
          .filter((b) => b.name !== block.name)
          .map((b) => (
            <MenuItem key={b.name} value={b.name}>
              {b.title}
            </MenuItem>
          ))}
      </TextField>
      <div role="status">
        <Answer
          error={live.error}
          operated={live.operated}
          about="It becomes this one. Where the two differ a field comes about, with its own value in its spots."
        />
        {fields.length > 0 && (
          <span className="soft">
            {" "}
            New {fields.length === 1 ? "field" : "fields"}: {fields.join(", ")}.
          </span>
        )}
      </div>
      <Button type="submit" variant="contained" disabled={!live.savable}>
        Merge
      </Button>
    </form>
  );
}

const ways = {
  nothing: "Delete only if it stands nowhere",
  copies: "Replace it with one-off copies",
  content: "Replace it with its content as plain text",
  another: "Replace it with another block",
} as const;

function Delete({ block, linked, done }: { block: Block; linked: number; done: Done }) {
  const [way, setWay] = useState<keyof typeof ways | "">("");
  const [swap, setSwap] = useState<Swap>({ to: "", fields: null });
  const ready = way !== "" && (way !== "another" || swap.to !== "");
  const live = useLiveOperation(
    ready
      ? {
          operation: "delete-block",
          block: block.name,
          with: way,
          to: swap.to,
          ...(way === "another" && swap.fields && { fields: swap.fields }),
        }
      : null,
    done,
  );
  return (
    <form className="manage-row" aria-label="Delete" {...live.form()}>
      <h2>Delete</h2>
      <div style={{ display: "grid", gap: 8 }}>
        <TextField
          select
          label="Where it stands now"
          value={way}
          onChange={(e) => setWay(e.target.value as keyof typeof ways)}
          error={live.error !== ""}
        >
          {Object.entries(ways).map(([k, words]) => (
            <MenuItem key={k} value={k}>
              {words}
            </MenuItem>
          ))}
        </TextField>
        {way === "another" && (
          <Swapping from={block.name} swap={swap} change={setSwap} operated={live.operated} />
        )}
      </div>
      <div role="status">
        <Answer
          error={live.error}
          operated={live.operated}
          about={`Stands on ${linked} ${linked === 1 ? "page" : "pages"} now. Undo brings it back.`}
        />
      </div>
      <Button type="submit" variant="contained" color="error" disabled={!live.savable}>
        Delete
      </Button>
    </form>
  );
}

function Answer({
  error,
  operated,
  about,
}: {
  error: string;
  operated: Operated | null;
  about: string;
}) {
  if (error) return <span className="bad-text">{error}</span>;
  if (!operated) return <span className="soft">{about}</span>;
  const problem = operated.proposal.problems[0];
  return problem ? (
    <span className="bad-text">{problem.message}</span>
  ) : (
    <Sentence text={operated.proposal.impact?.sentence ?? ""} />
  );
}
