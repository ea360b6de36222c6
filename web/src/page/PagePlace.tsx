import Button from "@mui/material/Button";
import { useSnackbar } from "notistack";
import { lazy, Suspense, useCallback, useMemo, useState } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import type { Operation, Overview } from "../api/client";
import { useOverview, useRows, useSite } from "../api/queries";
import { CallPanel } from "../block/CallPanel";
import { Conflict } from "../block/Conflict";
import { InsertCall } from "../block/InsertCall";
import { Live, type OwnElement, type Pointed, type Width } from "../block/Live";
import { api, unwrap } from "../api/client";
import { AsList, characters, RowLists } from "../block/RowLists";
import { Say, Sentence } from "../shared/Say";
import { Tabs } from "../shared/Tabs";
import { effectStates, type State } from "../shared/states";
import { useProposal, useSaveKey, useText } from "../shared/useEdit";
import { useWallSubject, type WallSubject } from "../wall/subject";
import { MakeBlock } from "./MakeBlock";
import { MovePage } from "./MovePage";

const Editor = lazy(() => import("../block/Editor"));
const bytes = (text: string) => new TextEncoder().encode(text).length;

/** The Page place: one page's source beside its rendering. */
export function PagePlace() {
  const overview = useOverview();
  const [params] = useSearchParams();
  if (!overview.data) return null;
  const doc = params.get("doc") ?? overview.data.pages.find((p) => p.path === overview.data.home)?.doc ?? overview.data.pages[0]?.doc ?? "";
  return <Sheet key={doc} doc={doc} overview={overview.data} />;
}

function Sheet({ doc, overview }: { doc: string; overview: Overview }) {
  const [, setParams] = useSearchParams();
  const { enqueueSnackbar } = useSnackbar();
  const page = overview.pages.find((p) => p.doc === doc);
  const text = useText(doc);
  const edit = useProposal([doc], `Edit ${page?.title ?? doc}`);
  const go = useNavigate();
  const site = useSite();
  const [width, setWidth] = useState<Width>("desk");
  const [at, setAt] = useState(-1);
  const [anchor, setAnchor] = useState(-1);
  const [piece, setPiece] = useState<{ from: number; to: number } | null>(null);
  const [chosen, setChosen] = useState<{ from: number; to: number; tags: string } | null>(null);
  const [lit, setLit] = useState("");
  const [elsewhere, setElsewhere] = useState<{ title: string; address: string; block: string; place: string } | null>(null);
  const light = useMemo(() => (lit ? { address: lit } : {}), [lit]);
  const source = text.text;
  const point = useCallback((p: Pointed) => {
    setElsewhere(null);
    setChosen(null);
    void api.POST("/sites/{site}/calls", { params: { path: { site } }, body: { text: source, at: 0, addresses: p.addresses } }).then((a) => {
      const call = unwrap(a);
      if (call.name) {
        setPiece(null);
        setAt(characters(source, call.from) + 2);
        setLit(call.address);
        return;
      }
      setAt(-1);
      const block = p.blocks[0] ?? "";
      const known = overview.blocks.find((b) => b.name === block);
      setLit(p.addresses[0] ?? "");
      setElsewhere({ title: known?.title ?? block, address: p.addresses[0] ?? "", block, place: known ? "blocks" : "scripts" });
    }).catch(() => undefined);
  }, [site, source, overview.blocks]);
  const own = useCallback((e: OwnElement) => {
    setElsewhere(null);
    setPiece(null);
    setLit("");
    void api.POST("/sites/{site}/elements", { params: { path: { site } }, body: { doc, at: e.at } }).then((a) => {
      const range = unwrap(a);
      setChosen((old) => (e.more && old ? { from: Math.min(old.from, range.from), to: Math.max(old.to, range.to), tags: `${old.tags} ${e.tag}` } : { ...range, tags: e.tag }));
    }).catch((problem: unknown) => enqueueSnackbar((problem as Error).message, { variant: "warning" }));
  }, [site, doc, enqueueSnackbar]);
  const rows = useRows(doc, text.text);
  const [asList, setAsList] = useState(false);
  const listed = asList && (rows.data?.length ?? 0) > 0;
  const selected = at >= 0 && anchor >= 0 && at !== anchor && !text.dirty;
  const cut = () => setPiece({ from: bytes(text.text.slice(0, Math.min(at, anchor))), to: bytes(text.text.slice(0, Math.max(at, anchor))) });
  const [moving, setMoving] = useState(false);
  const stay = useCallback(() => setMoving(false), []);
  const moved = useCallback((title: string, o: Operation) => {
    enqueueSnackbar(`Saved to the draft: ${title}`);
    void go(`/${site}/pages?doc=${encodeURIComponent(o.to ?? "")}`);
  }, [enqueueSnackbar, go, site]);
  const made = useCallback((title: string, o: Operation) => {
    enqueueSnackbar(`Saved to the draft: ${title}`);
    void go(`/${site}/blocks/${o.block ?? ""}`);
  }, [enqueueSnackbar, go, site]);
  const insert = (call: string) => {
    const where = at >= 0 ? at : text.text.length;
    text.set(text.text.slice(0, where) + call + text.text.slice(where));
    setAt(where + 3);
  };
  const impact = edit.proposal?.impact;
  const problems = edit.proposal?.problems ?? [];
  const subject = useMemo<WallSubject>(() => {
    if (impact && edit.proposal) return { question: "would", about: "What would this edit change?", states: effectStates(impact.effects), against: edit.proposal.id };
    return { question: "page", about: "Choose a page on the wall", states: overview.pages.map((p): State => (p.doc === doc ? "linked" : "none")), against: "live" };
  }, [impact, edit.proposal, overview.pages, doc]);
  useWallSubject(subject);
  const save = useCallback(() => {
    edit.save().then((s) => enqueueSnackbar(`Saved to the draft: ${s.title}`), (e: unknown) => enqueueSnackbar((e as Error).message, { variant: "error" }));
  }, [edit, enqueueSnackbar]);
  const savable = edit.dirty && edit.fresh && problems.length === 0 && !text.stale && !edit.saving;
  useSaveKey(edit.dirty && !edit.fresh, savable, save);
  if (!page) return <p className="empty" role="alert">There is no page {doc}. Find another with Ctrl+K.</p>;
  const url = `${overview.site_origin}${impact && problems.length === 0 ? `/_edit/${edit.proposal?.id ?? ""}` : "/_draft"}${page.path}`;
  const follow = (href: string) => {
    const to = overview.pages.find((p) => p.path === href.split("#")[0]);
    if (to) setParams({ doc: to.doc });
  };
  return (
    <>
      <div className="subject"><h1>{page.title}</h1><code>{page.path}</code><span className="soft">{page.doc}</span>{!text.dirty && !moving && <Button size="small" onClick={() => setMoving(true)}>Move</Button>}</div>
      {moving && <MovePage page={page} close={stay} done={moved} />}
      {edit.dirty ? (
        <Say tone={problems.length ? "bad" : "would"} actions={<><Button variant="outlined" color="secondary" onClick={text.drop}>Discard</Button><Button variant="contained" disabled={!savable} onClick={save} title="Ctrl+S">Save to draft</Button></>}>
          {problems[0] ? <span className="bad-text">This cannot be saved yet: line {problems[0].line}: {problems[0].message}</span> : impact ? <Sentence text={impact.sentence} /> : "Working out what this changes…"}
        </Say>
      ) : <Say tone="quiet"><span className="soft">The page's own text. What rules and the layout bring stands in the rendering.</span></Say>}
      {text.stale ? <Conflict path={doc} theirs={text.saved} mine={text.text} keep={() => text.rebase(text.text)} drop={text.drop} /> : (
        <div className="halves">
          <div className="panel">
            <div className="bar"><span>Source</span>{(rows.data?.length ?? 0) > 0 && <AsList on={asList} set={setAsList} />}<span className="right">{text.dirty ? "unsaved" : ""}</span>{selected && !piece && <Button size="small" sx={{ padding: "0 6px" }} onClick={cut}>Make a block of it</Button>}{!listed && <InsertCall insert={insert} />}</div>
            {listed && rows.data ? <RowLists path={doc} text={text.text} rows={rows.data} change={text.set} edit={setAt} /> : <div className="code-box"><Suspense fallback={<p className="empty">Opening the editor…</p>}>{text.loaded && <Editor path={doc} text={text.text} change={text.set} problems={problems} label={`Source of ${doc}`} cursor={(head, anchor) => { setAt(head); setAnchor(anchor); }} />}</Suspense></div>}
            {piece && !text.dirty ? <MakeBlock doc={doc} piece={piece} close={() => setPiece(null)} done={made} /> : at >= 0 && <CallPanel text={text.text} at={at} change={text.set} close={() => { setAt(-1); setLit(""); }} lit={setLit} />}
          </div>
          <div className="panel">
            <div className="bar"><Tabs label="Width" className="" value={width} choose={setWidth} tabs={[["desk", "Desk"], ["tablet", "Tablet"], ["phone", "Phone"]]} /></div>
            <Live url={url} width={width} title={page.title} light={light} follow={follow} point={point} own={own} />
            {chosen && !piece && <div className="elsewhere" role="status"><span>Chosen: <b>{chosen.tags}</b> of this page&apos;s text. <span className="soft">Shift takes neighbours in.</span></span><Button size="small" disabled={text.dirty} onClick={() => setPiece(chosen)}>Make a block of it</Button><Button size="small" onClick={() => setChosen(null)}>Close</Button></div>}
            {elsewhere && <div className="elsewhere" role="status"><span><b>{elsewhere.title}</b> <code>{elsewhere.address}</code> is not in this page&apos;s text.</span> <Link to={`/${site}/${elsewhere.place}/${elsewhere.block}`}>Open it</Link><Button size="small" onClick={() => setElsewhere(null)}>Close</Button></div>}
          </div>
        </div>
      )}
    </>
  );
}
