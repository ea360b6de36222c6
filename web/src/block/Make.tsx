import Button from "@mui/material/Button";
import { Halves } from "../shared/Halves";
import { Suspense, useState } from "react";
import type { Block, ChangeSet, Finding, Overview } from "../api/client";
import { useRows } from "../api/queries";
import { frontMatter } from "../shared/editor/frontMatter";
import { later } from "../shared/later";
import { Tabs } from "../shared/Tabs";
import { useQuiet, useText } from "../shared/useEdit";
import { AsList } from "../shared/AsList";
import { behindTag } from "./tags";
import { InsertCall } from "../shared/calls/InsertCall";
import { Rendering } from "./Rendering";
import type { Fault } from "../shared/rendering/heard";
import { ProblemList } from "../shared/ProblemList";
import { SourceBox } from "../shared/editor/SourceBox";
import type { Part } from "./parts";

const CallPanel = later(() => import("../shared/calls/CallPanel"), "CallPanel");
const FieldsForm = later(() => import("./FieldsForm"), "FieldsForm");
const MakeField = later(() => import("./MakeField"), "MakeField");
const RowLists = later(() => import("../shared/calls/RowLists"), "RowLists");

const bytes = (text: string) => new TextEncoder().encode(text).length;

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

/** The source, fields, style and behaviour of a block beside its rendering. */
export function Make({
  part,
  setPart,
  block,
  overview,
  proposalID,
  changes,
  quiet,
  made,
  problems,
  told,
}: {
  part: Part;
  setPart: (part: Part) => void;
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
  const [begin, stop] = [Math.min(at, anchor), Math.max(at, anchor)];
  const taken = at >= 0 && anchor >= 0 ? doc.text.slice(begin, stop) : "";
  const insert = (call: string, took = false) => {
    if (!took) return insertAt(at, call);
    doc.set(doc.text.slice(0, begin) + call + doc.text.slice(stop));
    setAt(begin + 3);
  };
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
    <Halves place="block" usual={42}>
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
          {part === "markup" && !listed && <InsertCall insert={insert} selected={taken} />}
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
    </Halves>
  );
}
