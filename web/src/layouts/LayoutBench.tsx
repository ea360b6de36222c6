import Button from "@mui/material/Button";
import { useCallback, useMemo, useState } from "react";
import { useNavigate, useSearchParams } from "react-router";
import type { Layout, Overview } from "../api/client";
import { useLayoutReading, useSite } from "../api/queries";
import { StaleText } from "../shared/editor/StaleText";
import { InsertCall } from "../shared/calls/InsertCall";
import { type State } from "../shared/states";
import { Tabs } from "../shared/Tabs";
import { useBench } from "../shared/useBench";
import { usePut } from "../shared/usePut";
import { usePending } from "../shared/usePending";
import { useKeyEdits, useLayoutEdits } from "../shared/useTextEdits";
import { useWallSubject, useWould, type WallSubject } from "../shared/wall/subject";
import { Beginnings } from "./Beginnings";
import { NewLayout } from "./NewLayout";
import { PageFields } from "./PageFields";
import { Regions } from "./Regions";
import { EditBar, IdleBar } from "../shared/EditBar";
import { RenderingOn } from "../shared/rendering/RenderingOn";
import { SourceBox } from "../shared/editor/SourceBox";
import { PickOne } from "../shared/PickOne";
import { DeleteLayout } from "./DeleteLayout";

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
  const [params] = useSearchParams();
  const put = usePut();
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
        <PickOne
          label="Layout"
          value={layout.name}
          all={layouts}
          choose={(name) => void go(`/${site}/layouts/${name}`)}
        />
        <Button
          size="small"
          variant="outlined"
          color="secondary"
          aria-expanded={making}
          onClick={() => setMaking(!making)}
        >
          New layout
        </Button>
        <DeleteLayout layout={layout} layouts={layouts} ask={pending.ask} />
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
        <StaleText path={path} text={text} />
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
