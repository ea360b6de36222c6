import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import { useCallback, useMemo, useState } from "react";
import { useSearchParams } from "react-router";
import type { Operation, Overview } from "../api/client";
import { useLayouts, useOverview, useReference, useRules } from "../api/queries";
import { bare } from "../block/InsertCall";
import { likelyRegion } from "../rules/NewRule";
import { TargetTree } from "../rules/TargetTree";
import { Say, Sentence } from "../shared/Say";
import { Tabs } from "../shared/Tabs";
import { tellSaved } from "../shared/notices";
import { useLiveOperation } from "../shared/useOperation";
import { useWallSubject, type WallSubject } from "../wall/subject";
import { docsOf, rolledStates, tally, withOrWithout } from "./chosen";
import { RolledList } from "./RolledList";
import { WhatCalls } from "./WhatCalls";

/** The place where a block is put on many pages at once, or taken off them. */
export function RollOutPlace() {
  const overview = useOverview();
  const reference = useReference();
  const layouts = useLayouts();
  const rules = useRules();
  const [params] = useSearchParams();
  if (!overview.data || !reference.data || !layouts.data || !rules.data) return null;
  const block = params.get("block") ?? "";
  const entry = reference.data.entries.find((e) => e.name === block);
  const regions = [...new Set(layouts.data.flatMap((l) => l.regions.map((r) => r.name)))];
  const region = params.get("region") ?? likelyRegion(block, rules.data, regions);
  const layout = params.get("layout") ?? "";
  const chosen = new Set(
    layout
      ? docsOf(
          `layout:${layout}`,
          [...overview.data.pages, ...overview.data.drafts],
          overview.data.home,
        )
      : [],
  );
  return (
    <RollOut
      key={params.toString()}
      overview={overview.data}
      regions={regions.length ? regions : ["main"]}
      begin={{ block, calls: params.get("calls") ?? (entry ? bare(entry) : ""), region, chosen }}
    />
  );
}

type Way = "put" | "take";

function RollOut({
  overview,
  regions,
  begin,
}: {
  overview: Overview;
  regions: string[];
  begin: { block: string; calls: string; region: string; chosen: Set<string> };
}) {
  const layouts = useLayouts();
  const all = useMemo(() => [...overview.pages, ...overview.drafts], [overview]);
  const [way, setWay] = useState<Way>("put");
  const [calls, setCalls] = useState(begin.calls);
  const [block, setBlock] = useState(begin.block);
  const [region, setRegion] = useState(begin.region);
  const [atStart, setAtStart] = useState(false);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(begin.chosen);
  const [future, setFuture] = useState<string[] | null>(null);
  // Page types of which every page is chosen can begin with it too.
  const types = useMemo(
    () =>
      (layouts.data ?? []).filter((l) => {
        const docs = docsOf(`layout:${l.name}`, all, overview.home);
        return (
          docs.length > 0 &&
          docs.every((d) => chosen.has(d)) &&
          l.regions.some((r) => r.name === region)
        );
      }),
    [layouts.data, overview.home, all, chosen, region],
  );
  const begins = types.filter((t) => future?.includes(t.name)).map((t) => t.name);
  const pages = useMemo(
    () => all.filter((p) => chosen.has(p.doc)).map((p) => p.doc),
    [all, chosen],
  );
  const ready = pages.length > 0 && (way === "put" ? calls.trim() !== "" : block !== "");
  const operation: Operation | null = !ready
    ? null
    : way === "put"
      ? {
          operation: "roll-out",
          pages,
          region,
          calls,
          at: atStart ? "start" : "end",
          ...(begins.length && { layouts: begins }),
        }
      : { operation: "take-off", pages, block, region };
  const done = useCallback((title: string) => {
    tellSaved(title);
    setChosen(new Set());
  }, []);
  const live = useLiveOperation(operation, done);
  const rolled = live.operated?.rolled;
  const problem = live.error || live.operated?.proposal.problems[0]?.message;
  const pick = useCallback(
    (path: string) =>
      setChosen((c) => withOrWithout(c, docsOf(`page:${path}`, overview.pages, overview.home))),
    [overview],
  );
  const subject = useMemo<WallSubject>(
    () => ({
      question: "choose",
      about: "Click bricks to choose pages",
      states: rolledStates(overview.pages, chosen, rolled),
      against: live.operated?.proposal.id ?? "live",
      pick,
    }),
    [overview.pages, chosen, rolled, live.operated, pick],
  );
  useWallSubject(subject);
  const [, setParams] = useSearchParams();
  const first = rolled?.find((r) => r.outcome === "added" || r.outcome === "removed")?.page;
  const change = live.operated?.change_set.changes.length ?? 0;
  return (
    <>
      <div className="subject">
        <h1>{way === "put" ? "Put on many pages" : "Take off many pages"}</h1>
        <Tabs
          label="Which way"
          value={way}
          choose={setWay}
          tabs={[
            ["put", "Put on"],
            ["take", "Take off"],
          ]}
        />
      </div>
      {!ready ? (
        <Say tone="quiet">
          <span className="soft">
            {pages.length
              ? "Choose a block to put there."
              : "Choose pages: in the tree, by search, or on the wall. What happens to each is listed before anything is saved."}
          </span>
        </Say>
      ) : (
        <Say
          tone={problem ? "bad" : "would"}
          actions={
            <>
              {first && (
                <Button
                  variant="outlined"
                  color="secondary"
                  onClick={() =>
                    setParams((p) => {
                      p.set("peek", first);
                      return p;
                    })
                  }
                >
                  Look at them
                </Button>
              )}
              <Button variant="outlined" color="secondary" onClick={() => setChosen(new Set())}>
                Choose none
              </Button>
              <Button
                variant="contained"
                disabled={!live.savable || change === 0 || live.error !== ""}
                onClick={live.carryOut}
              >
                {way === "put" ? "Put it there" : "Take it off"}
              </Button>
            </>
          }
        >
          {problem ? (
            <span className="bad-text">{problem}</span>
          ) : rolled ? (
            <>
              {tally(rolled, way === "put" ? "get" : "lose")}{" "}
              {live.operated?.proposal.impact && change > 0 && (
                <Sentence text={live.operated.proposal.impact.sentence} />
              )}
            </>
          ) : (
            "Working out what happens to each page…"
          )}
        </Say>
      )}
      <div className="halves">
        <div className="panel">
          <div className="roll-what">
            {way === "put" ? (
              <WhatCalls calls={calls} change={setCalls} />
            ) : (
              <label>
                Take off{" "}
                <select value={block} onChange={(e) => setBlock(e.target.value)}>
                  <option value="" disabled>
                    a block…
                  </option>
                  {overview.blocks.map((b) => (
                    <option key={b.name} value={b.name}>
                      {b.title}
                    </option>
                  ))}
                </select>
              </label>
            )}
            <div className="roll-where" role="group" aria-label="Region">
              <span className="soft">{way === "put" ? "into" : "from"}</span>
              {way === "take" && (
                <button
                  type="button"
                  className="plain toggle"
                  aria-pressed={region === ""}
                  onClick={() => setRegion("")}
                >
                  any region
                </button>
              )}
              {regions.map((r) => (
                <button
                  key={r}
                  type="button"
                  className="plain toggle"
                  aria-pressed={region === r}
                  onClick={() => setRegion(r)}
                >
                  {r}
                </button>
              ))}
              {way === "put" && (
                <span className="roll-where">
                  <span className="soft">at its</span>
                  {[true, false].map((s) => (
                    <button
                      key={String(s)}
                      type="button"
                      className="plain toggle"
                      aria-pressed={atStart === s}
                      onClick={() => setAtStart(s)}
                    >
                      {s ? "start" : "end"}
                    </button>
                  ))}
                </span>
              )}
            </div>
            {way === "put" &&
              types.map((t) => (
                <FormControlLabel
                  key={t.name}
                  sx={{ marginLeft: "-6px" }}
                  control={
                    <Checkbox
                      size="small"
                      checked={begins.includes(t.name)}
                      onChange={(e) =>
                        setFuture((f) =>
                          e.target.checked
                            ? [...(f ?? []), t.name]
                            : (f ?? []).filter((n) => n !== t.name),
                        )
                      }
                    />
                  }
                  label={`New pages of the type ${t.title} begin with it too`}
                />
              ))}
          </div>
          <RolledList rolled={rolled ?? []} overview={overview} />
        </div>
        <div className="panel">
          <TargetTree
            label="Pages"
            actions={(r) => {
              const docs = docsOf(r.target, all, overview.home);
              const n = docs.filter((d) => chosen.has(d)).length;
              return (
                <>
                  {n > 0 && n < docs.length && (
                    <span className="soft">
                      {n} of {docs.length}
                    </span>
                  )}
                  <button
                    type="button"
                    className="plain toggle"
                    aria-pressed={docs.length > 0 && n === docs.length}
                    aria-label={`Choose ${r.title} ${r.detail}`}
                    onClick={() => setChosen(withOrWithout(chosen, docs))}
                  >
                    choose
                  </button>
                </>
              );
            }}
          />
        </div>
      </div>
    </>
  );
}
