import { Waiting } from "../shared/Waiting";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { Halves } from "../shared/Halves";
import { useNavigate, useSearchParams } from "react-router";
import {
  api,
  unwrap,
  type Operation,
  type OperationOf,
  type Overview,
  type Page,
} from "../api/client";
import { useExplanation, useOverview, useSite } from "../api/queries";
import { characters } from "../shared/editor/characters";
import { StaleText } from "../shared/editor/StaleText";
import { useLook } from "../api/look";
import { tellSaved } from "../shared/notices";
import { type State } from "../shared/states";
import { useBench } from "../shared/useBench";
import type { Ready } from "../shared/useEdit";
import { usePending } from "../shared/usePending";
import { Doing } from "../shared/copies/Doing";
import { useActing } from "../shared/copies/useActing";
import { useWallSubject, useWould, type WallSubject } from "../shared/wall/subject";
import { MovePage } from "./MovePage";
import { PageBench } from "./PageBench";
import { usePointing, type Range } from "./usePointing";
import { EditBar, IdleBar } from "../shared/EditBar";
import { PageRendering } from "./PageRendering";

/** The Page place: one page's outline, text and settings beside its rendering. */
export function PagePlace() {
  const overview = useOverview();
  const [params] = useSearchParams();
  if (!overview.data) return <Waiting error={null}>Opening…</Waiting>;
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
          void go(`/${site}/pages?doc=${encodeURIComponent(o.to)}&tab=settings`);
      },
      [go, site],
    ),
  );
  const acting = useActing(tellSaved);
  const [piece, setPiece] = useState<Range | null>(null);
  const [moving, setMoving] = useState(false);
  const pointing = usePointing(doc, text.text, overview);
  useEffect(() => {
    called.current = pointing.rename;
  });
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
  useWallSubject(acting.subject ?? pending.subject ?? subject);
  const stay = useCallback(() => setMoving(false), []);
  const moved = useCallback(
    (title: string, o: OperationOf<"move-page">) => {
      tellSaved(title);
      void go(`/${site}/pages?doc=${encodeURIComponent(o.to)}`);
    },
    [go, site],
  );
  const made = useCallback(
    (title: string, o: OperationOf<"block-from-piece">) => {
      tellSaved(title);
      void go(`/${site}/blocks/${o.block}`);
    },
    [go, site],
  );
  const wrap = (call: string, chosen: Range) => {
    const from = characters(text.text, chosen.from);
    text.set(text.text.slice(0, from) + call + text.text.slice(characters(text.text, chosen.to)));
    pointing.setChosen(null);
    pointing.setAt(from + 3);
  };
  return (
    <>
      <div className="subject">
        <h1 dir="auto">{page.title}</h1>
        <code>{page.path}</code>
        <span className="soft">
          {page.doc}
          {story.data?.draft && ", a draft: it is not published"}
        </span>
      </div>
      {moving && <MovePage page={page} close={stay} done={moved} />}
      {acting.wanted ? (
        <div className="copy-pending">
          <Doing {...acting.doing} act={acting.wanted.act} spots={acting.wanted.spots} />
        </div>
      ) : (
        (pending.bar ??
        (edit.dirty ? (
          <EditBar
            impact={impact}
            problems={problems}
            drop={text.drop}
            savable={savable}
            save={save}
          />
        ) : (
          <IdleBar words="Drag a block from the shelf into a region (with Alt: a copy of it), or point at anything in the rendering." />
        )))
      )}
      {text.stale ? (
        <StaleText path={doc} text={text} />
      ) : (
        <Halves place="page">
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
            act={acting.want}
            idle={subject}
            move={() => setMoving(true)}
            made={made}
            look={look}
            proposal={proposal}
          />
          <PageRendering
            page={page}
            overview={overview}
            proposal={proposal}
            pointing={pointing}
            piece={piece}
            setPiece={setPiece}
            dirty={text.dirty}
            text={text.text}
            wrap={wrap}
          />
        </Halves>
      )}
    </>
  );
}
