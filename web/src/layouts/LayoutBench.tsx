import Button from "@mui/material/Button";
import { useCallback, useMemo, useState } from "react";
import { useNavigate, useSearchParams } from "react-router";
import type { Layout, Overview } from "../api/client";
import { useLayoutReading, useSite } from "../api/queries";
import { Conflict } from "../block/Conflict";
import { InsertCall } from "../block/InsertCall";
import { type State } from "../shared/states";
import { Tabs } from "../shared/Tabs";
import { useBench } from "../shared/useBench";
import { usePending } from "../shared/usePending";
import { useKeyEdits, useLayoutEdits } from "../shared/useTextEdits";
import { useWallSubject, useWould, type WallSubject } from "../wall/subject";
import { Beginnings } from "./Beginnings";
import { NewLayout } from "./NewLayout";
import { PageFields } from "./PageFields";
import { Regions } from "./Regions";
import { EditBar, IdleBar } from "../shared/EditBar";
import { RenderingOn } from "../block/RenderingOn";
import { SourceBox } from "../block/SourceBox";

const tabs = ["regions", "source", "fields", "begins"] as const;

/** One type of pages: its regions, source, page fields and what its pages begin with,
 *  beside one of its pages. */
export function LayoutBench({
  layout,
  layouts,
  overview,
}: {
  layout: Layout;
  layouts: Layout[];
  overview: Overview;
}) {
  const path = layout.path;
  const site = useSite();
  const go = useNavigate();
  const [params, setParams] = useSearchParams();
  const tab = tabs.find((t) => t === params.get("tab")) ?? "regions";
  const { text, edit, impact, problems, proposal, save, savable } = useBench(
    path,
    `Edit the layout ${layout.title}`,
  );
  const { data: reading } = useLayoutReading(text.text);
  const keys = useKeyEdits(path, text.text, text.set);
  const regions = useLayoutEdits(text.text, text.set);
  const pending = usePending(useCallback(() => void go(`/${site}/layouts`), [go, site]));
  const [making, setMaking] = useState(false);
  const [at, setAt] = useState(-1);
  const idle = useMemo<WallSubject>(
    () => ({
      question: "type",
      about: `Which pages are of the type ${layout.title}?`,
      states: overview.pages.map((p): State => (p.layout === layout.name ? "linked" : "none")),
      against: "live",
    }),
    [overview.pages, layout],
  );
  const subject = useWould(edit.proposal, idle);
  useWallSubject(pending.subject ?? subject);
  const pages = useMemo(
    () => overview.pages.filter((p) => p.layout === layout.name),
    [overview.pages, layout.name],
  );
  const page = pages.find((p) => p.path === params.get("page")) ?? pages[0];
  const first =
    overview.pages[subject.states.findIndex((s) => s === "break" || s === "change")]?.path;
  const wrong = keys.wrong || regions.wrong;
  const put = (key: string, value: string) =>
    setParams(
      (p) => {
        p.set(key, value);
        return p;
      },
      { replace: true },
    );
  const insert = (call: string) => {
    const where = at >= 0 ? at : text.text.length;
    text.set(text.text.slice(0, where) + call + text.text.slice(where));
  };
  return (
    <>
      <div className="subject">
        <h1>{layout.title}</h1>
        <span className="soft">
          {path}, the type of {layout.pages} {layout.pages === 1 ? "page" : "pages"}
        </span>
        <label className="new-rule" style={{ marginLeft: "auto" }}>
          Layout{" "}
          <select
            value={layout.name}
            onChange={(e) => void go(`/${site}/layouts/${e.target.value}`)}
          >
            {layouts.map((l) => (
              <option key={l.name} value={l.name}>
                {l.title}
              </option>
            ))}
          </select>
        </label>
        <Button
          size="small"
          variant="outlined"
          color="secondary"
          aria-expanded={making}
          onClick={() => setMaking(!making)}
        >
          New layout
        </Button>
        {layout.pages === 0 ? (
          <Button
            size="small"
            onClick={() =>
              pending.ask("Delete it", { operation: "delete-layout", name: layout.name })
            }
          >
            Delete
          </Button>
        ) : (
          <label className="new-rule">
            Delete, its pages become{" "}
            <select
              value=""
              disabled={layouts.length < 2}
              onChange={(e) =>
                pending.ask("Delete it", {
                  operation: "delete-layout",
                  name: layout.name,
                  to: e.target.value,
                })
              }
            >
              <option value="" disabled>
                another type…
              </option>
              {layouts
                .filter((l) => l !== layout)
                .map((l) => (
                  <option key={l.name} value={l.name}>
                    {l.title}
                  </option>
                ))}
            </select>
          </label>
        )}
      </div>
      {making && <NewLayout layouts={layouts} from={layout.name} close={() => setMaking(false)} />}
      {pending.bar ??
        (edit.dirty ? (
          <EditBar
            impact={impact}
            problems={problems}
            wrong={wrong}
            look={first ? () => put("peek", first) : undefined}
            drop={text.drop}
            savable={savable}
            save={save}
          />
        ) : (
          <IdleBar
            wrong={wrong}
            words="A region for one thing shows the page's own, else the most specific rule's, else what the layout holds there. In a stack all stand."
          />
        ))}
      {text.stale ? (
        <Conflict
          path={path}
          theirs={text.saved}
          mine={text.text}
          keep={() => text.rebase(text.text)}
          drop={text.drop}
        />
      ) : (
        <div className="halves">
          <div className="panel">
            <div className="bar">
              <Tabs
                label="What of the layout"
                className=""
                value={tab}
                choose={(t) => put("tab", t)}
                tabs={[
                  ["regions", "Regions"],
                  ["source", "Source"],
                  ["fields", "Page fields"],
                  ["begins", "New pages"],
                ]}
              />
              <span className="right">{text.dirty ? "unsaved" : ""}</span>
              {tab === "source" && <InsertCall insert={insert} />}
            </div>
            {tab === "regions" && reading && (
              <Regions layout={reading} set={keys.set} edit={regions.edit} pages={pages.length} />
            )}
            {tab === "source" && (
              <SourceBox path={path} doc={text} problems={problems} cursor={setAt} />
            )}
            {tab === "fields" && reading && (
              <PageFields fields={reading.page_fields} set={keys.set} />
            )}
            {tab === "begins" && reading && (
              <Beginnings
                key={layout.name}
                name={layout.name}
                layout={reading}
                saved={layout}
                dirty={text.dirty}
                set={keys.set}
              />
            )}
          </div>
          <RenderingOn
            overview={overview}
            pages={pages}
            page={page}
            choose={(p) => put("page", p)}
            proposal={proposal}
          >
            No page has this type yet. Give it to one under Settings of a page, or make a new page
            of it.
          </RenderingOn>
        </div>
      )}
    </>
  );
}
