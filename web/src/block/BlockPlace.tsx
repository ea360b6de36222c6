import Button from "@mui/material/Button";
import { Suspense, useCallback, useMemo, useState, type ReactNode } from "react";
import { useNavigate, useParams, useSearchParams } from "react-router";
import {
  ApiError,
  type Block,
  type ChangeSet,
  type Finding,
  type OperationOf,
  type Overview,
} from "../api/client";
import { useBlock, useOverview, useRows, useSite } from "../api/queries";
import { useBuffers } from "../shared/buffers";
import { frontMatter } from "../shared/editor/frontMatter";
import { later } from "../shared/later";
import { Tabs } from "../shared/Tabs";
import { tell, tellSaved } from "../shared/notices";
import { standing, type State } from "../shared/states";
import { useProposal, useQuiet, useText } from "../shared/useEdit";
import { useSaveKey } from "../shared/useSaveKey";
import { useWallSubject, useWould, type WallSubject } from "../shared/wall/subject";
import { AsList } from "./AsList";
import { behindTag } from "./tags";
import { InsertCall } from "../shared/calls/InsertCall";
import { useTold } from "./useTold";
import { Rendering } from "./Rendering";
import type { Fault } from "../shared/rendering/heard";
import { EditBar, IdleBar } from "../shared/EditBar";
import { ProblemList } from "../shared/ProblemList";
import { SourceBox } from "../shared/editor/SourceBox";
import { BlockHead, type Tab } from "./BlockHead";

const CallPanel = later(() => import("../shared/calls/CallPanel"), "CallPanel");
const Conflict = later(() => import("../shared/editor/Conflict"), "Conflict");
const FieldsForm = later(() => import("./FieldsForm"), "FieldsForm");
const History = later(() => import("../shared/history/History"), "History");
const Likenesses = later(() => import("./Likenesses"), "Likenesses");
const MakeField = later(() => import("./MakeField"), "MakeField");
const Manage = later(() => import("./Manage"), "Manage");
const Placements = later(() => import("./Placements"), "Placements");
const RowLists = later(() => import("../shared/calls/RowLists"), "RowLists");
const ValuesTable = later(() => import("../shared/values/ValuesTable"), "ValuesTable");

const bytes = (text: string) => new TextEncoder().encode(text).length;
const tabs: Tab[] = ["make", "placements", "values", "manage", "history"];
const parts = ["markup", "fields", "style", "behaviour"] as const;
type Part = (typeof parts)[number];

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
  if (!data.data || !overview.data) return null;
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
  const subject = useWould(edit.proposal, idle);
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
        />
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

/** What fails in the rendering, as marks in the behaviour. */
function failing(block: string, faults: Fault[]): Finding[] {
  return faults.flatMap((f) =>
    f.block === block
      ? [
          {
            code: "fails",
            severity: "error",
            path: `blocks/${block}.js`,
            line: f.line,
            column: f.column,
            message: f.message,
          },
        ]
      : [],
  );
}

function Make({
  block,
  overview,
  proposalID,
  changes,
  quiet,
  made,
  problems,
  told,
}: {
  block: Block;
  overview: Overview;
  proposalID: string;
  changes: ChangeSet["changes"];
  quiet: boolean;
  made: (title: string) => void;
  problems: Finding[];
  /** What is marked: what keeps the edit from being saved, and what does not work. */
  told: Finding[];
}) {
  const [params] = useSearchParams();
  const [part, setPart] = useState<Part>(parts.find((p) => p === params.get("part")) ?? "markup");
  const path =
    part === "style"
      ? `blocks/${block.name}.css`
      : part === "behaviour"
        ? `blocks/${block.name}.js`
        : block.path;
  const doc = useText(
    path,
    path === block.path || block.style === path || block.behaviour === path,
  );
  const [at, setAt] = useState(-1);
  const [length, setLength] = useState(0); // of the text when the cursor stood there: a front matter that grows moves it
  const [anchor, setAnchor] = useState(-1);
  const [fails, setFails] = useState<Fault[]>([]);
  const [piece, setPiece] = useState<{ from: number; to: number; text: string } | null>(null);
  const [asList, setAsList] = useState(false);
  const settled = useQuiet(doc.text, quiet);
  const rows = useRows(block.path, part === "markup" ? (asList ? doc.text : settled) : "");
  const listed = part === "markup" && asList && (rows.data?.length ?? 0) > 0;
  const [inserted, setInserted] = useState({ at: -1, behind: -1 }); // where the next one goes, if the cursor stays
  const insertAt = (cursor: number, call: string) => {
    const where =
      cursor >= 0 && cursor === inserted.at
        ? inserted.behind
        : cursor >= 0
          ? behindTag(doc.text, cursor)
          : doc.text.length;
    doc.set(doc.text.slice(0, where) + call + doc.text.slice(where));
    setAt(where + 3);
    setInserted({ at: where + 3, behind: where + call.length });
  };
  const insert = (call: string) => insertAt(at, call);
  const selected = part === "markup" && at >= 0 && anchor >= 0 && at !== anchor && !doc.dirty;
  const cut = () => {
    const [from, to] = [Math.min(at, anchor), Math.max(at, anchor)];
    setPiece({
      from: bytes(doc.text.slice(0, from)),
      to: bytes(doc.text.slice(0, to)),
      text: doc.text.slice(from, to),
    });
  };
  return (
    <div className="halves">
      <div className="panel">
        <div className="bar">
          <Tabs
            label="Documents of the block"
            className=""
            value={part}
            choose={setPart}
            tabs={[
              ["markup", "Markup"],
              ["fields", `Fields ${block.fields.length}`],
              ["style", block.style ? "Style" : "+ Style"],
              ["behaviour", block.behaviour ? "Behaviour" : "+ Behaviour"],
            ]}
          />
          {part === "markup" && (rows.data?.[0]?.items.length ?? 0) > 0 && (
            <AsList on={asList} set={setAsList} />
          )}
          <span className="right">{doc.dirty ? "unsaved" : ""}</span>
          {selected && !piece && !listed && (
            <Button size="small" sx={{ padding: "0 6px" }} onClick={cut}>
              Make a field of it
            </Button>
          )}
          {part === "markup" && !listed && <InsertCall insert={insert} />}
        </div>
        {part === "fields" ? (
          <div className="scroll">
            <Suspense>
              <FieldsForm
                path={block.path}
                saved={block.fields}
                text={doc.text}
                change={doc.set}
                show={(markup) => {
                  setPart("markup");
                  const cursor = at + doc.text.length - length;
                  insertAt(at >= 0 && cursor >= frontMatter(doc.text) ? cursor : -1, markup);
                }}
              />
            </Suspense>
          </div>
        ) : listed && rows.data ? (
          <Suspense>
            <RowLists path={path} text={doc.text} rows={rows.data} change={doc.set} edit={setAt} />
          </Suspense>
        ) : (
          <SourceBox
            path={path}
            doc={doc}
            problems={part === "behaviour" ? [...told, ...failing(block.name, fails)] : told}
            fold={part === "markup"}
            cursor={(head, from) => {
              setAt(head);
              setLength(doc.text.length);
              setAnchor(from);
            }}
          />
        )}
        <Suspense>
          {piece && !doc.dirty ? (
            <MakeField
              block={block.name}
              piece={piece}
              text={piece.text}
              done={(title) => {
                setPiece(null);
                made(title);
              }}
              close={() => setPiece(null)}
            />
          ) : (
            part === "markup" &&
            at >= 0 && (
              <CallPanel text={doc.text} at={at} change={doc.set} close={() => setAt(-1)} />
            )
          )}
        </Suspense>
        <ProblemList problems={told} />
      </div>
      <Rendering
        fails={setFails}
        block={block}
        overview={overview}
        proposalID={proposalID}
        changes={changes}
        quiet={quiet}
        sound={problems.length === 0}
      />
    </div>
  );
}
