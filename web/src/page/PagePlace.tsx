import Button from "@mui/material/Button";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import { api, unwrap, type Operation, type Overview, type Page } from "../api/client";
import { useExplanation, useOverview, useSite } from "../api/queries";
import { Conflict } from "../block/Conflict";
import { Live, type Width } from "../block/Live";
import { LookBar } from "../shared/LookBar";
import { previewOf, useLook } from "../shared/look";
import { tellSaved } from "../shared/notices";
import { type State } from "../shared/states";
import { useBench } from "../shared/useBench";
import type { Ready } from "../shared/useEdit";
import { usePending } from "../shared/usePending";
import { useWallSubject, useWould, type WallSubject } from "../wall/subject";
import { MovePage } from "./MovePage";
import { PageBench } from "./PageBench";
import { usePointing, type Range } from "./usePointing";
import { EditBar, IdleBar } from "../shared/EditBar";
import { WidthTabs } from "../block/WidthTabs";

/** The Page place: one page's make-up, text and settings beside its rendering. */
export function PagePlace() {
  const overview = useOverview();
  const [params] = useSearchParams();
  if (!overview.data) return null;
  const all = [...overview.data.pages, ...overview.data.drafts];
  const doc =
    params.get("doc") ?? all.find((p) => p.path === overview.data.home)?.doc ?? all[0]?.doc ?? "";
  const page = all.find((p) => p.doc === doc);
  if (!page)
    return (
      <p className="empty" role="alert">
        There is no page {doc}. Find another with Ctrl+K.
      </p>
    );
  return <Sheet key={doc} page={page} overview={overview.data} />;
}

function Sheet({ page, overview }: { page: Page; overview: Overview }) {
  const doc = page.doc;
  const [, setParams] = useSearchParams();
  const go = useNavigate();
  const site = useSite();
  const [look] = useLook();
  const called = useRef<(names: Record<string, string>) => void>(null);
  const ready = useCallback<Ready>(
    async (set) => {
      const keyed = unwrap(
        await api.POST("/sites/{site}/keyed-changes", { params: { path: { site } }, body: set }),
      );
      return { set: keyed.change_set, landed: () => called.current?.(keyed.called) };
    },
    [site],
  );
  const { text, edit, impact, problems, proposal, save, savable } = useBench(
    doc,
    `Edit ${page.title}`,
    true,
    ready,
  );
  const pending = usePending(
    useCallback(
      (o: Operation) => {
        if (o.operation === "delete-page") void go(`/${site}/pages?tab=pages`);
        if (o.operation === "duplicate-page")
          void go(`/${site}/pages?doc=${encodeURIComponent(o.to ?? "")}&tab=settings`);
      },
      [go, site],
    ),
  );
  const [width, setWidth] = useState<Width>("desk");
  const [piece, setPiece] = useState<Range | null>(null);
  const [moving, setMoving] = useState(false);
  const pointing = usePointing(doc, text.text, overview);
  const { lit, chosen, elsewhere } = pointing;
  useEffect(() => {
    called.current = pointing.rename;
  });
  const light = useMemo(() => (lit ? { address: lit, scroll: true } : {}), [lit]);
  const story = useExplanation(page.path, look, proposal);
  const idle = useMemo<WallSubject>(
    () => ({
      question: "page",
      about: "Choose a page on the wall",
      states: overview.pages.map((p): State => (p.doc === doc ? "linked" : "none")),
      against: "live",
    }),
    [overview.pages, doc],
  );
  const subject = useWould(edit.proposal, idle);
  useWallSubject(pending.subject ?? subject);
  const stay = useCallback(() => setMoving(false), []);
  const moved = useCallback(
    (title: string, o: Operation) => {
      tellSaved(title);
      void go(`/${site}/pages?doc=${encodeURIComponent(o.to ?? "")}`);
    },
    [go, site],
  );
  const made = useCallback(
    (title: string, o: Operation) => {
      tellSaved(title);
      void go(`/${site}/blocks/${o.block ?? ""}`);
    },
    [go, site],
  );
  const url = previewOf(overview, page.path, proposal, look);
  const follow = (href: string) => {
    const to = overview.pages.find((p) => p.path === href.split("#")[0]);
    if (to)
      setParams((p) => {
        p.set("doc", to.doc);
        return p;
      });
  };
  return (
    <>
      <div className="subject">
        <h1>{page.title}</h1>
        <code>{page.path}</code>
        <span className="soft">
          {page.doc}
          {story.data?.draft && ", a draft: it is not published"}
        </span>
      </div>
      {moving && <MovePage page={page} close={stay} done={moved} />}
      {pending.bar ??
        (edit.dirty ? (
          <EditBar
            impact={impact}
            problems={problems}
            drop={text.drop}
            savable={savable}
            save={save}
          />
        ) : (
          <IdleBar words="Drag a block from the shelf into a region, or point at anything in the rendering." />
        ))}
      {text.stale ? (
        <Conflict
          path={doc}
          theirs={text.saved}
          mine={text.text}
          keep={() => text.rebase(text.text)}
          drop={text.drop}
        />
      ) : (
        <div className="halves">
          <PageBench
            page={page}
            overview={overview}
            text={text}
            problems={problems}
            story={story.data}
            pointing={pointing}
            piece={piece}
            setPiece={setPiece}
            ask={pending.ask}
            move={() => setMoving(true)}
            made={made}
            look={look}
            proposal={proposal}
          />
          <div className="panel">
            <div className="bar">
              <WidthTabs width={width} set={setWidth} />
              <span className="right">
                <LookBar />
              </span>
            </div>
            <Live
              url={url}
              width={width}
              title={page.title}
              light={light}
              follow={follow}
              point={pointing.point}
              own={pointing.own}
            />
            {chosen && !piece && (
              <div className="elsewhere" role="status">
                <span>
                  Chosen: <b>{chosen.tags}</b> of this page&apos;s text.{" "}
                  <span className="soft">Shift takes neighbours in.</span>
                </span>
                <Button size="small" disabled={text.dirty} onClick={() => setPiece(chosen)}>
                  Make a block of it
                </Button>
                <Button size="small" onClick={() => pointing.setChosen(null)}>
                  Close
                </Button>
              </div>
            )}
            {elsewhere && (
              <div className="elsewhere" role="status">
                <span>
                  <b>{elsewhere.title}</b> <code>{elsewhere.address}</code> is not in this
                  page&apos;s text.
                </span>{" "}
                <Link to={`/${site}/${elsewhere.place}/${elsewhere.block}`}>Open it</Link>
                <Button size="small" onClick={() => pointing.setElsewhere(null)}>
                  Close
                </Button>
              </div>
            )}
          </div>
        </div>
      )}
    </>
  );
}
