import Button from "@mui/material/Button";
import { useCallback, useMemo, useState } from "react";
import { useNavigate, useSearchParams } from "react-router";
import type { MenuSummary, Overview } from "../api/client";
import { useSite } from "../api/queries";
import { StaleText } from "../shared/editor/StaleText";
import { standing } from "../shared/states";
import { Tabs } from "../shared/Tabs";
import { useBench } from "../shared/useBench";
import { usePut } from "../shared/usePut";
import { usePending } from "../shared/usePending";
import { useKeyEdits } from "../shared/useTextEdits";
import { useWallSubject, useWould, type WallSubject } from "../shared/wall/subject";
import { NewMenu } from "./NewMenu";
import { entry, type Entry } from "./tree";
import { useEntries } from "./useEntries";
import { EditBar, IdleBar } from "../shared/EditBar";
import { RenderingOn } from "../shared/rendering/RenderingOn";
import { SourceBox } from "../shared/editor/SourceBox";
import { PickOne } from "../shared/PickOne";
import { Entries } from "./Entries";

const tabs = ["entries", "source"] as const;

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
  const [params] = useSearchParams();
  const query = usePut();
  const tab = tabs.find((t) => t === params.get("tab")) ?? "entries";
  const { text, edit, impact, problems, proposal, save, savable } = useBench(
    path,
    `Edit the menu ${menu.title}`,
  );
  const list = useEntries(text.text, text.set);
  const keys = useKeyEdits(path, text.text, text.set);
  const pending = usePending(useCallback(() => void go(`/${site}/menus`), [go, site]));
  const [making, setMaking] = useState(false);
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
  const subject = useWould(edit.proposal, idle);
  useWallSubject(pending.subject ?? subject);
  const pages = useMemo(
    () => overview.pages.filter((_, i) => menu.states[i] === "l"),
    [overview.pages, menu.states],
  );
  const page = pages.find((p) => p.path === params.get("page")) ?? pages[0];
  const { entries, set } = list;
  const add = (at: number, depth: number) => {
    const made: Entry = entry({}, depth);
    set([...entries.slice(0, at), made, ...entries.slice(at)]);
    setChosen(made.id);
  };
  const first =
    overview.pages[subject.states.findIndex((s) => s === "break" || s === "change")]?.path;
  const wrong = list.wrong || keys.wrong;
  return (
    <>
      <div className="subject">
        <h1>{menu.title}</h1>
        <span className="soft">
          {path}, shown on {menu.pages} {menu.pages === 1 ? "page" : "pages"}
        </span>
        <PickOne
          label="Menu"
          value={menu.name}
          all={menus}
          choose={(name) => void go(`/${site}/menus/${name}`)}
        />
        <Button
          size="small"
          variant="outlined"
          color="secondary"
          aria-expanded={making}
          onClick={() => setMaking(!making)}
        >
          New menu
        </Button>
        <Button
          size="small"
          disabled={text.dirty}
          onClick={() => pending.ask("Delete it", { operation: "delete-menu", name: menu.name })}
        >
          Delete
        </Button>
      </div>
      {making && <NewMenu close={() => setMaking(false)} />}
      {pending.bar ??
        (edit.dirty ? (
          <EditBar
            impact={impact}
            problems={problems}
            wrong={wrong}
            look={first ? () => query("peek", first) : undefined}
            drop={text.drop}
            savable={savable}
            save={save}
          />
        ) : (
          <IdleBar
            wrong={wrong}
            words="Drag an entry up or down, and sideways to nest it; or use the arrow keys on its handle."
          />
        ))}
      {text.stale ? (
        <StaleText path={path} text={text} />
      ) : (
        <div className="halves">
          <div className="panel">
            <div className="bar">
              <Tabs
                label="What of the menu"
                className=""
                value={tab}
                choose={(t) => query("tab", t)}
                tabs={[
                  ["entries", "Entries"],
                  ["source", "Source"],
                ]}
              />
              <span className="right">{text.dirty ? "unsaved" : ""}</span>
              {tab === "entries" && (
                <Button
                  size="small"
                  sx={{ padding: "0 6px" }}
                  onClick={() => add(entries.length, 0)}
                >
                  Add an entry
                </Button>
              )}
            </div>
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
            {tab === "source" && <SourceBox path={path} doc={text} problems={problems} />}
          </div>
          <RenderingOn
            overview={overview}
            pages={pages}
            page={page}
            choose={(p) => query("page", p)}
            proposal={proposal}
          >
            No page shows it yet. Name it in a block&apos;s menu field: at one placement, by a
            rule&apos;s values, or as the default.
          </RenderingOn>
        </div>
      )}
    </>
  );
}
