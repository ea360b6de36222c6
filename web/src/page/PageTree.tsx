import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useCallback, useMemo, useState } from "react";
import { Link, useNavigate } from "react-router";
import type { OperationOf, Overview } from "../api/client";
import { useLayouts, useSite } from "../api/queries";
import { Rows } from "../shared/Rows";
import { LiveForm } from "../shared/LiveForm";
import { useLiveOperation } from "../shared/useOperation";
import { nameOf } from "../shared/NewBlock";
import { docOf } from "./MovePage";

/** Every page of the site by address, drafts too, with a search; and new pages. */
export function PageTree({ overview, doc }: { overview: Overview; doc: string }) {
  const site = useSite();
  const [filter, setFilter] = useState("");
  const [making, setMaking] = useState(false);
  const rows = useMemo(() => {
    const words = filter.toLowerCase().split(/\s+/).filter(Boolean);
    return [
      ...overview.pages.map((p) => ({ ...p, draft: false })),
      ...overview.drafts.map((p) => ({ ...p, draft: true })),
    ]
      .filter((p) => words.every((w) => `${p.title} ${p.path}`.toLowerCase().includes(w)))
      .sort((a, b) => (a.path < b.path ? -1 : 1));
  }, [overview, filter]);
  return (
    <>
      <div className="shelf-filter">
        <input
          type="search"
          aria-label="Find a page"
          placeholder="Find a page"
          value={filter}
          onChange={(e) => setFilter(e.target.value)}
        />
        <Button
          size="small"
          variant="outlined"
          color="secondary"
          sx={{ whiteSpace: "nowrap" }}
          aria-expanded={making}
          onClick={() => setMaking(!making)}
        >
          New page
        </Button>
      </div>
      {making && (
        <NewPage
          overview={overview}
          near={overview.pages.find((p) => p.doc === doc)?.path ?? "/"}
          close={() => setMaking(false)}
        />
      )}
      <Rows
        label="All pages"
        height={30}
        items={rows}
        keyOf={(p) => p.doc}
        row={(p) => (
          <>
            <Link
              className="target-name"
              dir="auto"
              style={{
                paddingLeft: filter
                  ? 0
                  : Math.max(p.path.split("/").filter(Boolean).length - 1, 0) * 16,
              }}
              aria-current={p.doc === doc ? "page" : undefined}
              to={`/${site}/pages?doc=${encodeURIComponent(p.doc)}&tab=pages`}
            >
              {p.title}
            </Link>
            <span className="soft target-name">{p.path}</span>
            <span className="end soft target-name">{p.draft ? "draft" : p.layout}</span>
          </>
        )}
      />
    </>
  );
}

function NewPage({
  overview,
  near,
  close,
}: {
  overview: Overview;
  near: string;
  close: () => void;
}) {
  const site = useSite();
  const go = useNavigate();
  const layouts = useLayouts();
  const [title, setTitle] = useState("");
  const section = `/${near.split("/").slice(1, -1)[0] ?? ""}/`.replace("//", "/");
  const [address, setAddress] = useState("");
  const [chosen, setChosen] = useState("");
  const layout =
    chosen ||
    (overview.pages.find((p) => p.path.startsWith(section) && p.path !== section)?.layout ??
      layouts.data?.[0]?.name ??
      "");
  const at = address || (nameOf(title) ? `${section}${nameOf(title)}/` : "");
  const done = useCallback(
    (_: string, o: OperationOf<"new-page">) => {
      close();
      void go(`/${site}/pages?doc=${encodeURIComponent(o.to)}`);
    },
    [close, go, site],
  );
  const live = useLiveOperation(
    title.trim() && at
      ? { operation: "new-page", to: docOf(at), title: title.trim(), layout }
      : null,
    done,
  );
  return (
    <LiveForm
      label="New page"
      className="new-page"
      live={live}
      act="Make it"
      close={close}
      hint="It begins as its type says, and is on the site at the next release."
    >
      <TextField
        autoFocus
        label="Title of the page"
        value={title}
        onChange={(e) => setTitle(e.target.value)}
      />
      <TextField label="Address" value={at} onChange={(e) => setAddress(e.target.value)} />
      <TextField
        select
        label="Page type"
        value={layouts.data ? layout : ""}
        onChange={(e) => setChosen(e.target.value)}
      >
        {layouts.data?.map((l) => (
          <MenuItem key={l.name} value={l.name}>
            {l.title}
          </MenuItem>
        ))}
      </TextField>
    </LiveForm>
  );
}
