import { Waiting } from "../shared/Waiting";
import Button from "@mui/material/Button";
import { useMutation } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { Link, useSearchParams } from "react-router";
import { api, unwrap, type Review } from "../api/client";
import { useRefresh } from "../api/changes";
import { useOverview, useReview, useSite } from "../api/queries";
import { Rows } from "../shared/Rows";
import { Signature } from "../shared/history/Signature";
import { RuleLink } from "../shared/rules/RuleLink";
import { useCalled } from "../shared/useCalled";
import { usePending } from "../shared/usePending";
import { Say, SentenceBefore } from "../shared/Say";
import { tell } from "../shared/notices";
import { effectStates, stateOfEffect } from "../shared/states";
import { Sign } from "../shared/wall/Sign";
import { useWallSubject, type WallSubject } from "../shared/wall/subject";
import { Written } from "./Written";

/** What stands between the draft and the published site, and publishing it. */
export function ReviewPlace() {
  const review = useReview();
  const overview = useOverview();
  const [, setParams] = useSearchParams();
  const effects = review.data?.impact.effects;
  const subject = useMemo<WallSubject | null>(
    () =>
      effects === undefined
        ? null
        : {
            question: "differs",
            about: "What differs from the live site?",
            states: effectStates(effects),
            against: "live",
          },
    [effects],
  );
  const pending = usePending();
  useWallSubject(pending.subject ?? subject);
  if (review.error)
    return (
      <p className="empty" role="alert">
        {review.error.message}
      </p>
    );
  if (!review.data || !overview.data) return <Waiting error={null}>Opening…</Waiting>;
  const r = review.data;
  const broken = r.findings.list.filter((f) => f.severity === "error");
  const look = (page: string) =>
    setParams((p) => {
      p.set("peek", page);
      return p;
    });
  return (
    <>
      <div className="subject">
        <h1>Review</h1>
        <span className="soft">
          the draft against{" "}
          {r.releases[0]
            ? `release ${r.releases[0].number}`
            : "nothing: this site has not been published"}
        </span>
      </div>
      {pending.bar ?? <Publish review={r} />}
      <Written review={r} />
      <div className="review" style={{ marginTop: 10 }}>
        <Edits review={r} ask={pending.ask} />
        <div className="panel">
          <h2>
            {r.pages.length} {r.pages.length === 1 ? "page differs" : "pages differ"}
          </h2>
          {r.pages.length === 0 && <p className="empty">The draft is what visitors see.</p>}
          <Rows
            label="Pages that differ"
            items={r.pages}
            keyOf={(p) => p.path}
            row={(p) => (
              <>
                <Sign state={stateOfEffect[p.effect]} />
                <button type="button" className="plain" onClick={() => look(p.path)}>
                  <b>{p.title}</b> <span className="soft">{p.path}</span>
                </button>
                <span className="soft end">{p.effect}</span>
              </>
            )}
          />
        </div>
        <div className="panel">
          <h2>
            {broken.length === 0 ? (
              r.findings.checked ? (
                "Nothing is broken"
              ) : (
                "Checking…"
              )
            ) : (
              <Link to="../checks" relative="path">
                {broken.length} broken
              </Link>
            )}
          </h2>
          <div className="scroll" tabIndex={0} role="region" aria-label="What is broken">
            <ul>
              {broken.slice(0, 100).map((f) => (
                <li key={`${f.path}${f.line}${f.column}${f.code}`}>
                  <span className="mono" style={{ color: "var(--crimson)" }}>
                    {f.path}:{f.line}
                  </span>
                  <br />
                  {f.message}.{f.code === "unresolved-call" && " It shows nothing when published."}
                </li>
              ))}
            </ul>
          </div>
          <Ahead review={r} />
          <Releases review={r} />
        </div>
      </div>
    </>
  );
}

/** The days to come on which what is published changes by itself. */
function Ahead({ review }: { review: Review }) {
  const site = useSite();
  const called = useCalled();
  if (review.ahead.length === 0) return null;
  const names = (list: string[], word: string) =>
    list.map((n) => (
      <span key={n}>
        {" "}
        <RuleLink rule={n} /> {word}.
      </span>
    ));
  return (
    <>
      <h2 style={{ borderTop: "1px solid var(--joint)" }}>Days ahead</h2>
      <ul>
        {review.ahead.map((t) => (
          <li key={t.day}>
            <b>{t.day}</b>
            {names(t.begins, "begins")}
            {names(t.ends, "is over")}
            {t.menus.map((m) => (
              <span key={`menu ${m}`}>
                {" "}
                Entries of <Link to={`/${site}/menus/${m}`}>{called(`menus/${m}.yaml`)}</Link> turn.
              </span>
            ))}
          </li>
        ))}
      </ul>
    </>
  );
}

function Publish({ review }: { review: Review }) {
  const site = useSite();
  const refresh = useRefresh();
  const [asked, setAsked] = useState(false); // whether to publish what breaks
  const breaks = review.impact.breaks;
  const first = review.records.find((e) => e.waits);
  const publish = useMutation({
    mutationFn: async () =>
      unwrap(
        await api.POST("/sites/{site}/releases", {
          params: { path: { site } },
          body: { title: first?.title ?? "Publish" },
        }),
      ),
    onSuccess: async (rel) => {
      setAsked(false);
      await refresh();
      if (rel.writing?.problem)
        tell(
          `Release ${rel.number} is published, and not yet written to ${rel.writing.folder}`,
          "error",
        );
      else tell(`Published as release ${rel.number}`);
    },
    onError: (e) => tell(e.message, "error"),
  });
  const idle = review.edits === 0 && review.pages.length === 0 && review.releases.length > 0;
  const publishable = review.records.length > 0 || review.releases.length === 0;
  return (
    <>
      <Say
        tone={idle ? "quiet" : breaks.length > 0 ? "bad" : "would"}
        actions={
          asked ? undefined : (
            <Button
              variant="contained"
              data-first=""
              disabled={!publishable || publish.isPending}
              onClick={() => (breaks.length > 0 ? setAsked(true) : publish.mutate())}
            >
              Publish{breaks.length > 0 && " …"}
            </Button>
          )
        }
      >
        {idle ? (
          <span className="soft">Nothing waits to be published.</span>
        ) : (
          <>
            <b>
              {review.edits} {review.edits === 1 ? "edit" : "edits"}.
            </b>{" "}
            <SentenceBefore text={review.impact.sentence} before={brokenBefore(review)} />
          </>
        )}
      </Say>
      {asked && (
        <div className="panel asks" role="alertdialog" aria-label="Publish what breaks?">
          <h2>
            {breaks.length === 1
              ? "This breaks when it is published"
              : `These ${breaks.length} things break when it is published`}
          </h2>
          <ul>
            {breaks.map((b) => (
              <li key={b.page + b.address + b.code}>
                <span className="bad-text">{b.message}</span>{" "}
                <span className="soft mono">{b.page || b.address}</span>
              </li>
            ))}
          </ul>
          <div className="end">
            <Button autoFocus variant="outlined" color="secondary" onClick={() => setAsked(false)}>
              Not yet
            </Button>
            <Button
              variant="contained"
              color="error"
              disabled={publish.isPending}
              onClick={() => publish.mutate()}
            >
              Publish all the same
            </Button>
          </div>
        </div>
      )}
    </>
  );
}

/** How much was broken already when nothing was edited yet. */
function brokenBefore(review: Review): number {
  return Math.max(
    0,
    review.findings.list.filter((f) => f.severity === "error").length - review.impact.breaks.length,
  );
}

function Edits({ review, ask }: { review: Review; ask: ReturnType<typeof usePending>["ask"] }) {
  const site = useSite();
  const [older, setOlder] = useState<Review["records"]>([]);
  const records = [
    ...review.records,
    ...older.filter((e) => e.id < (review.records.at(-1)?.id ?? 0)),
  ];
  const last = records.at(-1);
  const more = useMutation({
    mutationFn: async () =>
      unwrap(
        await api.GET("/sites/{site}/edits", {
          params: { path: { site }, query: { before: last?.id } },
        }),
      ),
    onSuccess: (list) => setOlder((old) => [...old, ...list]),
    onError: (e) => tell(e.message, "error"),
  });
  const all = more.data?.length === 0 || records.length < 100;
  return (
    <div className="panel">
      <h2>
        Edits since {review.releases[0] ? `release ${review.releases[0].number}` : "the beginning"}
      </h2>
      <div className="scroll" tabIndex={0} role="region" aria-label="Edits">
        <div className="signing">
          <Signature />
        </div>
        {records.length === 0 && (
          <p className="empty">No edits yet. Choose a block from the shelf and change something.</p>
        )}
        <ol>
          {records.map((e) => (
            <li key={e.id} style={e.undone ? { textDecoration: "line-through" } : undefined}>
              <b>{e.title}</b>{" "}
              <time className="soft" dateTime={e.at}>
                {new Date(e.at).toLocaleTimeString([], { hour: "2-digit", minute: "2-digit" })}
              </time>
              {e.author && <span className="soft"> by {e.author}</span>}
              {e.kind === "edit" && (
                <Button
                  size="small"
                  sx={{ padding: "0 6px", marginLeft: "6px" }}
                  aria-label={`${e.undone ? "Do again" : "Take back"} ${e.title}`}
                  onClick={() =>
                    ask(e.undone ? "Do it again" : "Take it back", {
                      operation: "take-back",
                      edit: e.id,
                    })
                  }
                >
                  {e.undone ? "Do again" : "Take back"}
                </Button>
              )}
              <div className="soft mono">
                {e.paths.filter((p) => !p.startsWith("history/")).join(", ")}
                {e.documents > e.paths.length && ` and ${e.documents - e.paths.length} more`}
              </div>
            </li>
          ))}
        </ol>
        {!all && (
          <Button onClick={() => more.mutate()} disabled={more.isPending}>
            Earlier edits
          </Button>
        )}
      </div>
    </div>
  );
}

function Releases({ review }: { review: Review }) {
  const site = useSite();
  const refresh = useRefresh();
  const restore = useMutation({
    mutationFn: async (number: number) =>
      unwrap(
        await api.POST("/sites/{site}/releases/{number}/restore", {
          params: { path: { site, number } },
        }),
      ),
    onSuccess: async (s) => {
      await refresh();
      tell(`${s.title}: in the draft now, not yet published`);
    },
    onError: (e) => tell(e.message, "error"),
  });
  return (
    <>
      <h2 style={{ borderTop: "1px solid var(--joint)" }}>Releases</h2>
      <div className="scroll" tabIndex={0} role="region" aria-label="Releases">
        <ol>
          {review.releases.map((r) => (
            <li key={r.number} style={{ display: "flex", gap: 8, alignItems: "center" }}>
              <span>
                <b>{r.number}</b> {r.title}
                <br />
                <time className="soft" dateTime={r.at}>
                  {new Date(r.at).toLocaleString([], { dateStyle: "medium", timeStyle: "short" })}
                </time>
              </span>
              <span style={{ marginLeft: "auto" }}>
                <Button
                  onClick={() => restore.mutate(r.number)}
                  aria-label={`Restore release ${r.number} into the draft`}
                >
                  Restore
                </Button>
              </span>
            </li>
          ))}
        </ol>
      </div>
    </>
  );
}
