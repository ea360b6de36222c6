import Button from "@mui/material/Button";
import { useState } from "react";
import { useSearchParams } from "react-router";
import type {
  Explanation,
  Finding,
  Operation,
  OperationOf,
  Overview,
  Page,
  PagePart,
} from "../api/client";
import { History } from "../shared/history/History";
import type { WallSubject } from "../shared/wall/subject";
import type { useActing } from "../shared/copies/useActing";
import { CallPanel } from "../shared/calls/CallPanel";
import { InsertCall } from "../shared/calls/InsertCall";
import type { Look } from "../api/look";
import { Tabs } from "../shared/Tabs";
import type { useText } from "../shared/useEdit";
import { useKeyEdits, usePageEdits } from "../shared/useTextEdits";
import { ValuesPanel } from "../shared/values/ValuesPanel";
import { MakeBlock } from "./MakeBlock";
import { Outline } from "./Outline";
import { PageTree } from "./PageTree";
import { SendPart } from "./SendPart";
import { Sliced } from "../shared/Sliced";
import { Settings } from "./Settings";
import type { Range, usePointing } from "./usePointing";
import { SourceBox } from "../shared/editor/SourceBox";
import { usePut } from "../shared/usePut";
import { useDoing } from "./useDoing";

const bytes = (text: string) => new TextEncoder().encode(text).length;
const tabs = ["outline", "source", "settings", "history", "pages"] as const;

interface Props {
  page: Page;
  overview: Overview;
  text: ReturnType<typeof useText>;
  problems: Finding[];
  story: Explanation | undefined;
  pointing: ReturnType<typeof usePointing>;
  piece: Range | null;
  setPiece: (piece: Range | null) => void;
  ask: (verb: string, operation: Operation) => void;
  act: ReturnType<typeof useActing>["want"];
  move: () => void;
  made: (title: string, operation: OperationOf<"block-from-piece">) => void;
  look: Look;
  proposal: string;
  idle: WallSubject;
}

/** Where a page is worked on: its outline, its source, its settings, and the way to
 *  other pages. */
export function PageBench({
  page,
  overview,
  text,
  problems,
  story,
  pointing,
  piece,
  setPiece,
  ask,
  act,
  move,
  made,
  look,
  proposal,
  idle,
}: Props) {
  const doc = page.doc;
  const [params] = useSearchParams();
  const put = usePut();
  const tab = tabs.find((t) => t === params.get("tab")) ?? "outline";
  const { at, setAt, lit, setLit, placed, setPlaced } = pointing;
  const [anchor, setAnchor] = useState(-1);
  const [sending, setSending] = useState<PagePart | null>(null);
  const { edit, wrong } = usePageEdits(doc, text.text, text.set);
  const keys = useKeyEdits(doc, text.text, text.set);
  const selected = at >= 0 && anchor >= 0 && at !== anchor && !text.dirty;
  const cut = () =>
    setPiece({
      from: bytes(text.text.slice(0, Math.min(at, anchor))),
      to: bytes(text.text.slice(0, Math.max(at, anchor))),
    });
  const taken =
    at >= 0 && anchor >= 0 ? text.text.slice(Math.min(at, anchor), Math.max(at, anchor)) : "";
  const insert = (call: string, took = false) => {
    if (took) {
      const [begin, stop] = [Math.min(at, anchor), Math.max(at, anchor)];
      text.set(text.text.slice(0, begin) + call + text.text.slice(stop));
      setAt(begin + 3);
      return;
    }
    const where = at >= 0 ? at : text.text.length;
    text.set(text.text.slice(0, where) + call + text.text.slice(where));
    setAt(where + 3);
  };
  const insertCopy = (call: string) => {
    const where = at >= 0 ? at : text.text.length;
    const whole = text.text.slice(0, where) + call + text.text.slice(where);
    edit({ edit: "copy", from: bytes(text.text.slice(0, where)) }, whole);
  };
  const doing = useDoing({ doc, text, pointing, edit, send: setSending, act });
  return (
    <div className="panel">
      <div className="bar">
        <Tabs
          label="What of the page"
          className=""
          value={tab}
          choose={(t) => put("tab", t)}
          tabs={[
            ["outline", "Outline"],
            ["source", "Source"],
            ["settings", "Settings"],
            ["history", "History"],
            ["pages", "All pages"],
          ]}
        />
        <span className="right">{text.dirty ? "unsaved" : ""}</span>
        {tab === "source" && selected && !piece && (
          <Button size="small" sx={{ padding: "0 6px" }} onClick={cut}>
            Make a block of it
          </Button>
        )}
        {tab === "source" && (
          <InsertCall insert={insert} insertCopy={insertCopy} selected={taken} />
        )}
      </div>
      {(wrong || keys.wrong) && (
        <p className="bad-text wrong" role="alert">
          {wrong || keys.wrong}
        </p>
      )}
      {tab === "outline" && story && (
        <Sliced>
          <Outline story={story} lit={lit} doing={doing} ask={ask} />
        </Sliced>
      )}
      {tab === "source" && (
        <SourceBox
          path={doc}
          doc={text}
          problems={problems}
          cursor={(head, from) => {
            setAt(head);
            setAnchor(from);
          }}
        />
      )}
      {tab === "settings" && story && (
        <Settings
          key={story.layout}
          story={story}
          home={page.path === overview.home}
          dirty={text.dirty}
          set={keys.set}
          ask={ask}
          detach={() => act("detach", [{ doc, address: "", title: page.title, of: "" }])}
          move={move}
        />
      )}
      {tab === "history" && <History paths={[[doc, "Page"]]} idle={idle} />}
      {tab === "pages" && <PageTree overview={overview} doc={doc} />}
      {sending && !text.dirty && (
        <SendPart
          part={sending}
          doc={doc}
          overview={overview}
          ask={ask}
          close={() => setSending(null)}
        />
      )}
      {piece && !text.dirty ? (
        <MakeBlock doc={doc} piece={piece} close={() => setPiece(null)} done={made} />
      ) : (
        at >= 0 &&
        (tab === "outline" || tab === "source") && (
          <CallPanel
            text={text.text}
            at={at}
            change={text.set}
            close={() => {
              setAt(-1);
              setLit("");
            }}
            lit={setLit}
          />
        )
      )}
      {placed && at < 0 && (
        <ValuesPanel
          key={placed.found}
          page={page.path}
          address={placed.address}
          title={placed.title}
          look={look}
          proposal={proposal}
          set={keys.set}
          settled={!text.dirty}
          close={() => {
            setPlaced(null);
            setLit("");
          }}
        />
      )}
    </div>
  );
}
