import { Waiting } from "../shared/Waiting";
import { Suspense, useCallback, useMemo, useState, type ReactNode } from "react";
import { useNavigate, useParams, useSearchParams } from "react-router";
import { ApiError, type Block, type OperationOf, type Overview } from "../api/client";
import { useBlock, useLoading, useOverview, useSite } from "../api/queries";
import { useBuffers } from "../shared/buffers";
import { later } from "../shared/later";
import { tell, tellSaved } from "../shared/notices";
import { standing, type State } from "../shared/states";
import { useProposal, useText } from "../shared/useEdit";
import { useSaveKey } from "../shared/useSaveKey";
import { useWallSubject, useWould, type WallSubject } from "../shared/wall/subject";
import { useTold } from "./useTold";
import { CameFrom } from "../shared/CameFrom";
import { EditBar, IdleBar } from "../shared/EditBar";
import { BlockHead, type Tab } from "./BlockHead";
import { Make } from "./Make";
import { parts, type Part } from "./parts";

const Conflict = later(() => import("../shared/editor/Conflict"), "Conflict");
const History = later(() => import("../shared/history/History"), "History");
const Likenesses = later(() => import("./Likenesses"), "Likenesses");
const Manage = later(() => import("./Manage"), "Manage");
const Placements = later(() => import("./Placements"), "Placements");
const ValuesTable = later(() => import("../shared/values/ValuesTable"), "ValuesTable");

const tabs: Tab[] = ["make", "placements", "values", "manage", "history"];

/** The Block place: a block's source and fields beside a live rendering, and its
 *  placements. */
export function BlockPlace() {
  const { block = "" } = useParams();
  const overview = useOverview();
  const data = useBlock(block);
  if (data.error)
    return (
      <p className="empty" role="alert">
        {data.error.message} Choose another from the shelf.
      </p>
    );
  if (!data.data || !overview.data) return <Waiting error={null}>Opening…</Waiting>;
  return <Bench key={block} block={data.data} overview={overview.data} />;
}

function Bench({ block, overview }: { block: Block; overview: Overview }) {
  const [params, setParams] = useSearchParams();
  const tab: Tab = tabs.find((t) => t === params.get("tab")) ?? "make";
  const go = useNavigate();
  const site = useSite();
  const paths = [block.path, `blocks/${block.name}.css`, `blocks/${block.name}.js`];
  const edit = useProposal(paths, `Edit ${block.title}`);
  const [conflicted, setConflicted] = useState("");
  const markup = useText(block.path);
  const style = useText(paths[1] ?? "", block.style !== "");
  const behaviour = useText(paths[2] ?? "", block.behaviour !== "");
  const docs = [
    { path: block.path, ...markup },
    { path: paths[1] ?? "", ...style },
    { path: paths[2] ?? "", ...behaviour },
  ];
  const clash = docs.find((d) => d.stale) ?? docs.find((d) => d.path === conflicted && d.dirty);
  const impact = edit.proposal?.impact;
  const row = overview.blocks.find((b) => b.name === block.name)?.states ?? "";

  const idle = useMemo<WallSubject>(
    () => ({
      question: "stands",
      about: `Where does ${block.title} stand?`,
      states: standing(row),
      against: "live",
    }),
    [row, block.title],
  );
  const [part, setPart] = useState<Part>(parts.find((p) => p === params.get("part")) ?? "markup");
  const what = part === "style" ? "style" : "behaviour";
  const loading = useLoading(
    block.name,
    what,
    tab === "make" && block[what] !== "" && (part === "style" || part === "behaviour"),
  );
  const loads = useMemo<WallSubject | null>(() => {
    if (!loading.data) return null;
    const those = new Set(loading.data);
    return {
      question: "loads",
      about: `Which pages load the ${what} of ${block.title}?`,
      states: overview.pages.map((p) => (those.has(p.path) ? "linked" : "none")),
      against: "live",
    };
  }, [loading.data, what, block.title, overview.pages]);
  const shownPart = tab === "make" && part === what;
  const subject = useWould(edit.proposal, shownPart && loads ? loads : idle);
  useWallSubject(subject);

  const save = useCallback(() => {
    edit.save().then(
      (s) => tellSaved(s.title),
      (e: unknown) => {
        if (e instanceof ApiError && e.problem.conflict) setConflicted(e.problem.conflict.path);
        else tell((e as Error).message, "error");
      },
    );
  }, [edit]);
  const managed = useCallback(
    (title: string, o: OperationOf<"rename-block" | "duplicate-block" | "delete-block">) => {
      tellSaved(title);
      void go(o.operation === "delete-block" ? `/${site}/blocks` : `/${site}/blocks/${o.to}`);
    },
    [go, site],
  );
  const problems = edit.proposal?.problems ?? [];
  const told = useTold(edit.proposal, block, docs);
  const savable = edit.dirty && edit.fresh && problems.length === 0 && !clash && !edit.saving;
  useSaveKey(edit.working, savable, save);
  const look = (page?: string) =>
    setParams((p) => {
      const first = page ?? firstInQuestion(overview, subject.states);
      if (first) p.set("peek", first);
      return p;
    });
  const buffers = useBuffers();
  const drop = () => paths.forEach((p) => buffers.set(site, p, null));
  const linked = useMemo(
    () => standing(row).filter((s) => s === "linked" || s === "own").length,
    [row],
  );
  return (
    <>
      <BlockHead
        block={block}
        linked={linked}
        tab={tab}
        choose={(t) =>
          setParams((p) => {
            p.set("tab", t);
            return p;
          })
        }
      />
      {edit.dirty ? (
        <EditBar
          impact={impact}
          problems={problems}
          failed={edit.failed}
          look={firstInQuestion(overview, subject.states) ? () => look() : undefined}
          drop={drop}
          savable={savable}
          save={save}
        />
      ) : (
        <IdleBar
          words={
            block.about ||
            "Edit the markup or a field, and the wall shows which pages that would change."
          }
        >
          <CameFrom id={`blocks/${block.name}.html`} />
        </IdleBar>
      )}
      <Suspense
        fallback={
          <p className="empty" aria-busy="true">
            Opening…
          </p>
        }
      >
        {clash ? (
          <Conflict
            key={clash.path}
            path={clash.path}
            theirs={clash.saved}
            mine={clash.text}
            keep={() => {
              clash.rebase(clash.text);
              setConflicted("");
            }}
            drop={() => {
              clash.drop();
              setConflicted("");
            }}
          />
        ) : tab === "placements" ? (
          <Alone>
            <Placements block={block.name} idle={idle} look={look} done={tellSaved} />
            <Likenesses block={block.name} idle={idle} />
          </Alone>
        ) : tab === "values" ? (
          <Alone>
            <ValuesTable block={block.name} idle={subject} />
          </Alone>
        ) : tab === "history" ? (
          <Alone>
            <History
              paths={[
                [block.path, "Markup and fields"],
                [`blocks/${block.name}.css`, "Style"],
                [`blocks/${block.name}.js`, "Behaviour"],
              ]}
              idle={subject}
            />
          </Alone>
        ) : tab === "manage" ? (
          <Alone>
            <Manage
              block={block}
              linked={linked}
              blocks={overview.blocks}
              idle={subject}
              done={managed}
              changed={tellSaved}
            />
          </Alone>
        ) : (
          <Make
            part={part}
            setPart={setPart}
            block={block}
            overview={overview}
            proposalID={problems.length === 0 && impact ? (edit.proposal?.id ?? "") : ""}
            changes={edit.changes}
            problems={problems}
            told={told}
            quiet={!edit.dirty || edit.fresh}
            made={tellSaved}
          />
        )}
      </Suspense>
    </>
  );
}

/** A panel that takes the whole place. */
function Alone({ children }: { children: ReactNode }) {
  return (
    <div className="panel" style={{ margin: "10px 16px 12px", flex: 1 }}>
      {children}
    </div>
  );
}

function firstInQuestion(overview: Overview, states: State[]): string | undefined {
  const i =
    states.findIndex((s) => s === "break") >= 0
      ? states.findIndex((s) => s === "break")
      : states.findIndex((s) => s === "change");
  const j = i >= 0 ? i : states.findIndex((s) => s !== "none");
  return overview.pages[j]?.path;
}
