import Button from "@mui/material/Button";
import { Halves } from "./Halves";
import { useMemo, useState, type ReactNode } from "react";
import { useSearchParams } from "react-router";
import type { Overview, Page } from "../api/client";
import { EditBar, IdleBar } from "./EditBar";
import { StaleText } from "./editor/StaleText";
import { PickOne } from "./PickOne";
import { RenderingOn } from "./rendering/RenderingOn";
import { Tabs } from "./Tabs";
import type { useBench } from "./useBench";
import type { usePending } from "./usePending";
import { usePut } from "./usePut";
import { useWallSubject, useWould, type WallSubject } from "./wall/subject";

interface Props<T extends string> {
  overview: Overview;
  path: string;
  title: string;
  /** Behind the title: what it is to how many pages. */
  about: string;
  /** The word for its kind, and all of that kind, of which it is one. */
  kind: string;
  name: string;
  all: { name: string; title: string }[];
  choose: (name: string) => void;
  /** The form for a new one of its kind. */
  create: (close: () => void) => ReactNode;
  remove: ReactNode;
  bench: ReturnType<typeof useBench>;
  pending: ReturnType<typeof usePending>;
  /** What is on the wall while nothing is unsaved; the same one while nothing of it changes. */
  idle: WallSubject;
  /** What stands in its way, as a form says, and what is said while nothing does. */
  wrong: string;
  hint: string;
  tabs: readonly (readonly [T, string])[];
  tab: T;
  /** What stands beside the tabs, and in the one that is open. */
  tools: ReactNode;
  children: ReactNode;
  /** The pages on which it can be looked at, and what is said where there are none. */
  pages: Page[];
  none: string;
}

/** A document that is neither block nor page on the bench: its tabs, beside one of its pages. */
export function DocumentBench<T extends string>(p: Props<T>) {
  const { overview, bench, pending } = p;
  const { text, edit } = bench;
  const [params] = useSearchParams();
  const put = usePut();
  const [making, setMaking] = useState(false);
  const would = useWould(edit.proposal, p.idle);
  const subject = pending.subject ?? would;
  useWallSubject(subject);
  const first =
    overview.pages[would.states.findIndex((s) => s === "break" || s === "change")]?.path;
  const page = p.pages.find((one) => one.path === params.get("page")) ?? p.pages[0];
  return (
    <>
      <div className="subject">
        <h1 dir="auto">{p.title}</h1>
        <span className="soft">
          {p.path}, {p.about}
        </span>
        <PickOne label={p.kind} value={p.name} all={p.all} choose={p.choose} />
        <Button
          size="small"
          variant="outlined"
          color="secondary"
          aria-expanded={making}
          onClick={() => setMaking(!making)}
        >
          New {p.kind.toLowerCase()}
        </Button>
        {p.remove}
      </div>
      {making && p.create(() => setMaking(false))}
      {pending.bar ??
        (edit.dirty ? (
          <EditBar
            impact={bench.impact}
            problems={bench.problems}
            wrong={p.wrong}
            look={first ? () => put("peek", first) : undefined}
            drop={text.drop}
            savable={bench.savable}
            save={bench.save}
          />
        ) : (
          <IdleBar wrong={p.wrong} words={p.hint} />
        ))}
      {text.stale ? (
        <StaleText path={p.path} text={text} />
      ) : (
        <Halves place="document">
          <div className="panel">
            <div className="bar">
              <Tabs
                label={`What of the ${p.kind.toLowerCase()}`}
                className=""
                value={p.tab}
                choose={(t) => put("tab", t)}
                tabs={p.tabs}
              />
              <span className="right">{text.dirty ? "unsaved" : ""}</span>
              {p.tools}
            </div>
            {p.children}
          </div>
          <RenderingOn
            overview={overview}
            pages={p.pages}
            page={page}
            choose={(path) => put("page", path)}
            proposal={bench.proposal}
          >
            {p.none}
          </RenderingOn>
        </Halves>
      )}
    </>
  );
}

/** The tab of the address: one of some, or the first. */
export function useTab<T extends string>(tabs: readonly (readonly [T, string])[]): T {
  const [params] = useSearchParams();
  return useMemo(() => {
    const asked = params.get("tab");
    const [first] = tabs[0] ?? [];
    return (tabs.find(([t]) => t === asked)?.[0] ?? first) as T;
  }, [tabs, params]);
}
