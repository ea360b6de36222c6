import { Waiting } from "../shared/Waiting";
import { useCallback, useMemo, useState } from "react";
import { useSearchParams } from "react-router";
import { rolledOf, type Operation, type Overview } from "../api/client";
import { useLayouts, useOverview, useReference, useRules } from "../api/queries";
import { bare } from "../shared/calls/InsertCall";
import { likelyRegion } from "../shared/rules/NewRule";
import { Say } from "../shared/Say";
import { Tabs } from "../shared/Tabs";
import { tellSaved } from "../shared/notices";
import { useLiveOperation } from "../shared/useOperation";
import { useWallSubject, type WallSubject } from "../shared/wall/subject";
import { docsOf, rolledStates, withOrWithout } from "./chosen";
import { RolledList } from "./RolledList";
import { PagesToChoose } from "./PagesToChoose";
import { RollBar } from "./RollBar";
import { RollWhat, type Way } from "./RollWhat";

/** The place where a block is put on many pages at once, or taken off them. */
export function RollOutPlace() {
  const overview = useOverview();
  const reference = useReference();
  const layouts = useLayouts();
  const rules = useRules();
  const [params] = useSearchParams();
  if (!overview.data || !reference.data || !layouts.data || !rules.data)
    return <Waiting error={null}>Opening…</Waiting>;
  const block = params.get("block") ?? "";
  const entry = reference.data.entries.find((e) => e.name === block);
  const regions = [...new Set(layouts.data.flatMap((l) => l.regions.map((r) => r.name)))];
  const region =
    params.get("region") ?? likelyRegion(block, entry?.about ?? "", rules.data, regions);
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
  const [asCopies, setAsCopies] = useState(false);
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
          ...(asCopies && { as_copies: true }),
          ...(begins.length && { layouts: begins }),
        }
      : { operation: "take-off", pages, block, region };
  const done = useCallback((title: string) => {
    tellSaved(title);
    setChosen(new Set());
  }, []);
  const live = useLiveOperation(operation, done);
  const rolled = rolledOf(live.operated);
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
  return (
    <>
      <div className="subject">
        <h1 dir="auto">{way === "put" ? "Put on many pages" : "Take off many pages"}</h1>
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
        <RollBar way={way} live={live} none={() => setChosen(new Set())} />
      )}
      <div className="halves">
        <div className="panel">
          <RollWhat
            way={way}
            overview={overview}
            regions={regions}
            calls={calls}
            setCalls={setCalls}
            block={block}
            setBlock={setBlock}
            region={region}
            setRegion={setRegion}
            atStart={atStart}
            setAtStart={setAtStart}
            asCopies={asCopies}
            setAsCopies={setAsCopies}
            types={types}
            begins={begins}
            begin={(type, on) =>
              setFuture((f) => (on ? [...(f ?? []), type] : (f ?? []).filter((n) => n !== type)))
            }
          />
          <RolledList rolled={rolled ?? []} overview={overview} />
        </div>
        <PagesToChoose pages={all} home={overview.home} chosen={chosen} set={setChosen} />
      </div>
    </>
  );
}
