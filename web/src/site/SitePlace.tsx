import { useCallback, useMemo, useState } from "react";
import { Halves } from "../shared/Halves";
import { useSearchParams } from "react-router";
import type { Overview } from "../api/client";
import { useOverview, useSiteReading, useSiteValue } from "../api/queries";
import { EditBar, IdleBar } from "../shared/EditBar";
import { SourceBox } from "../shared/editor/SourceBox";
import { StaleText } from "../shared/editor/StaleText";
import { History } from "../shared/history/History";
import { RenderingOn } from "../shared/rendering/RenderingOn";
import { standing, type State } from "../shared/states";
import { Tabs } from "../shared/Tabs";
import { useBench } from "../shared/useBench";
import { usePut } from "../shared/usePut";
import { useKeyEdits } from "../shared/useTextEdits";
import { useWallSubject, useWould, type WallSubject } from "../shared/wall/subject";
import { SiteValues } from "./SiteValues";

const path = "site.yaml";
const tabs = [
  ["values", "Values"],
  ["source", "Source"],
  ["history", "History"],
] as const;

/** The site's own values: what it is called, where it is, and its fields, each with the pages that
 *  show it. */
export function SitePlace() {
  const overview = useOverview();
  return overview.data ? <Sheet overview={overview.data} /> : null;
}

function Sheet({ overview }: { overview: Overview }) {
  const [params] = useSearchParams();
  const put = usePut();
  const tab = tabs.find(([t]) => t === params.get("tab"))?.[0] ?? "values";
  const bench = useBench(path, "Edit the site's values");
  const { text, edit } = bench;
  const reading = useSiteReading(text.text);
  const keys = useKeyEdits(path, text.text, text.set);
  const [asked, setAsked] = useState({ name: "", label: "" });
  const shows = useSiteValue(asked.name);
  const idle = useMemo<WallSubject>(
    () => ({
      question: "shows",
      about: shows.data ? `Which pages show ${asked.label}?` : "Ask of a value where it stands",
      states: shows.data ? standing(shows.data.states) : overview.pages.map((): State => "none"),
      against: "live",
    }),
    [shows.data, asked.label, overview.pages],
  );
  const subject = useWould(edit.proposal, idle);
  useWallSubject(subject);
  const ask = useCallback((name: string, label: string) => setAsked({ name, label }), []);
  const lit = subject.states.findIndex((s) => s !== "none");
  const page =
    overview.pages.find((p) => p.path === params.get("page")) ??
    overview.pages[Math.max(lit, 0)] ??
    overview.pages[0];
  return (
    <>
      <div className="subject">
        <h1 dir="auto">{overview.title}</h1>
        <span className="soft">{path}, the values of the site as a whole</span>
      </div>
      {edit.dirty ? (
        <EditBar
          impact={bench.impact}
          problems={bench.problems}
          wrong={keys.wrong}
          drop={text.drop}
          savable={bench.savable}
          save={bench.save}
        />
      ) : (
        <IdleBar
          wrong={keys.wrong || (shows.error?.message ?? "")}
          words="Any text shows a value by @{=site.NAME}; change it here and it changes wherever it stands."
        />
      )}
      {text.stale ? (
        <StaleText path={path} text={text} />
      ) : (
        <Halves place="site">
          <div className="panel">
            <div className="bar">
              <Tabs
                label="What of the site"
                className=""
                value={tab}
                choose={(t) => put("tab", t)}
                tabs={tabs}
              />
              <span className="right">{text.dirty ? "unsaved" : ""}</span>
            </div>
            {tab === "values" && reading && (
              <SiteValues
                reading={reading}
                overview={overview}
                text={text.text}
                change={text.set}
                keys={keys}
                asked={asked.name}
                ask={ask}
                pages={shows.data?.pages}
              />
            )}
            {tab === "source" && <SourceBox path={path} doc={text} problems={bench.problems} />}
            {tab === "history" && <History paths={[[path, "Site"]]} idle={idle} />}
          </div>
          <RenderingOn
            overview={overview}
            pages={overview.pages}
            page={page}
            choose={(p) => put("page", p)}
            proposal={bench.proposal}
          >
            The site has no page yet.
          </RenderingOn>
        </Halves>
      )}
    </>
  );
}
