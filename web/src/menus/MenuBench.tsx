import Button from "@mui/material/Button";
import { useCallback, useMemo, useState } from "react";
import { useNavigate } from "react-router";
import type { MenuSummary, Overview } from "../api/client";
import { useSite } from "../api/queries";
import { DocumentBench, useTab } from "../shared/DocumentBench";
import { SourceBox } from "../shared/editor/SourceBox";
import { History } from "../shared/history/History";
import { standing } from "../shared/states";
import { useBench } from "../shared/useBench";
import { usePending } from "../shared/usePending";
import { useKeyEdits } from "../shared/useTextEdits";
import type { WallSubject } from "../shared/wall/subject";
import { Entries } from "./Entries";
import { NewMenu } from "./NewMenu";
import { entry, type Entry } from "./tree";
import { useEntries } from "./useEntries";

const tabs = [
  ["entries", "Entries"],
  ["source", "Source"],
  ["history", "History"],
] as const;

interface Props {
  menu: MenuSummary;
  menus: MenuSummary[];
  overview: Overview;
}

/** One menu: its entries as a tree, or its source, beside a page that shows it. */
export function MenuBench({ menu, menus, overview }: Props) {
  const path = menu.path;
  const site = useSite();
  const go = useNavigate();
  const tab = useTab(tabs);
  const bench = useBench(path, `Edit the menu ${menu.title}`);
  const { text } = bench;
  const list = useEntries(text.text, text.set);
  const keys = useKeyEdits(path, text.text, text.set);
  const pending = usePending(useCallback(() => void go(`/${site}/menus`), [go, site]));
  const [chosen, setChosen] = useState(-1);
  const idle = useMemo<WallSubject>(
    () => ({
      question: "menu",
      about: `Which pages show ${menu.title}?`,
      states: standing(menu.states),
      against: "live",
    }),
    [menu],
  );
  const pages = useMemo(
    () => overview.pages.filter((_, i) => menu.states[i] === "l"),
    [overview.pages, menu.states],
  );
  const { entries, set } = list;
  const add = (at: number, depth: number) => {
    const made: Entry = entry({}, depth);
    set([...entries.slice(0, at), made, ...entries.slice(at)]);
    setChosen(made.id);
  };
  return (
    <DocumentBench
      overview={overview}
      path={path}
      title={menu.title}
      about={`shown on ${menu.pages} ${menu.pages === 1 ? "page" : "pages"}`}
      kind="Menu"
      name={menu.name}
      all={menus}
      choose={(name) => void go(`/${site}/menus/${name}`)}
      create={(close) => <NewMenu close={close} />}
      remove={
        <Button
          size="small"
          disabled={text.dirty}
          onClick={() => pending.ask("Delete it", { operation: "delete-menu", name: menu.name })}
        >
          Delete
        </Button>
      }
      bench={bench}
      pending={pending}
      idle={idle}
      wrong={list.wrong || keys.wrong}
      hint="Drag an entry up or down, and sideways to nest it; or use the arrow keys on its handle."
      tabs={tabs}
      tab={tab}
      tools={
        tab === "entries" && (
          <Button size="small" sx={{ padding: "0 6px" }} onClick={() => add(entries.length, 0)}>
            Add an entry
          </Button>
        )
      }
      pages={pages}
      none="No page shows it yet. Name it in a block's menu field: at one placement, by a rule's values, or as the default."
    >
      {tab === "entries" && (
        <Entries
          title={list.reading?.title ?? menu.title}
          setTitle={(title) => keys.set(["title"], title)}
          entries={entries}
          set={set}
          chosen={chosen}
          choose={setChosen}
          add={add}
        />
      )}
      {tab === "source" && <SourceBox path={path} doc={text} problems={bench.problems} />}
      {tab === "history" && <History paths={[[path, "Menu"]]} idle={idle} />}
    </DocumentBench>
  );
}
