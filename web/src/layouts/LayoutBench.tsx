import { useCallback, useMemo, useState } from "react";
import { useNavigate } from "react-router";
import type { Layout, Overview } from "../api/client";
import { useLayoutReading, useSite } from "../api/queries";
import { InsertCall } from "../shared/calls/InsertCall";
import { DocumentBench, useTab } from "../shared/DocumentBench";
import { SourceBox } from "../shared/editor/SourceBox";
import { type State } from "../shared/states";
import { useBench } from "../shared/useBench";
import { usePending } from "../shared/usePending";
import { useKeyEdits, useLayoutEdits } from "../shared/useTextEdits";
import type { WallSubject } from "../shared/wall/subject";
import { Beginnings } from "./Beginnings";
import { DeleteLayout } from "./DeleteLayout";
import { History } from "../shared/history/History";
import { NewLayout } from "./NewLayout";
import { PageFields } from "./PageFields";
import { Regions } from "./Regions";

const tabs = [
  ["regions", "Regions"],
  ["source", "Source"],
  ["fields", "Page fields"],
  ["begins", "New pages"],
  ["history", "History"],
] as const;

interface Props {
  layout: Layout;
  layouts: Layout[];
  overview: Overview;
}

/** One type of pages: its regions, source, page fields and what its pages begin with,
 *  beside one of its pages. */
export function LayoutBench({ layout, layouts, overview }: Props) {
  const path = layout.path;
  const site = useSite();
  const go = useNavigate();
  const tab = useTab(tabs);
  const bench = useBench(path, `Edit the layout ${layout.title}`);
  const { text } = bench;
  const { data: reading } = useLayoutReading(text.text);
  const keys = useKeyEdits(path, text.text, text.set);
  const regions = useLayoutEdits(text.text, text.set);
  const pending = usePending(useCallback(() => void go(`/${site}/layouts`), [go, site]));
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
  const pages = useMemo(
    () => overview.pages.filter((p) => p.layout === layout.name),
    [overview.pages, layout.name],
  );
  const insert = (call: string) => {
    const where = at >= 0 ? at : text.text.length;
    text.set(text.text.slice(0, where) + call + text.text.slice(where));
  };
  return (
    <DocumentBench
      overview={overview}
      path={path}
      title={layout.title}
      about={`the type of ${layout.pages} ${layout.pages === 1 ? "page" : "pages"}`}
      kind="Layout"
      name={layout.name}
      all={layouts}
      choose={(name) => void go(`/${site}/layouts/${name}`)}
      create={(close) => <NewLayout layouts={layouts} from={layout.name} close={close} />}
      remove={<DeleteLayout layout={layout} layouts={layouts} ask={pending.ask} />}
      bench={bench}
      pending={pending}
      idle={idle}
      wrong={keys.wrong || regions.wrong}
      hint="A region for one thing shows the page's own, else the most specific rule's, else what the layout holds there. In a stack all stand."
      tabs={tabs}
      tab={tab}
      tools={tab === "source" && <InsertCall insert={insert} />}
      pages={pages}
      none="No page has this type yet. Give it to one under Settings of a page, or make a new page of it."
    >
      {tab === "regions" && reading && (
        <Regions layout={reading} set={keys.set} edit={regions.edit} pages={pages.length} />
      )}
      {tab === "source" && (
        <SourceBox path={path} doc={text} problems={bench.problems} cursor={setAt} />
      )}
      {tab === "fields" && reading && <PageFields fields={reading.page_fields} set={keys.set} />}
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
      {tab === "history" && <History paths={[[path, "Layout"]]} idle={idle} />}
    </DocumentBench>
  );
}
