import Button from "@mui/material/Button";
import { Suspense, useCallback, useDeferredValue, useMemo } from "react";
import { useParams } from "react-router";
import type { Entry, Overview } from "../api/client";
import { useCallers, useOverview, useReference } from "../api/queries";
import { CallChip } from "../block/CallChip";
import { Conflict } from "../block/Conflict";
import { Editor } from "../block/Editor";
import { Say, Sentence } from "../shared/Say";
import { tell, tellSaved } from "../shared/notices";
import { effectStates, type State } from "../shared/states";
import { useProposal, useSaveKey, useText } from "../shared/useEdit";
import { useWallSubject, type WallSubject } from "../wall/subject";
import { TryOut } from "./TryOut";

/** The Script place: a scripted shortcode's source beside a panel to try it out. */
export function ScriptPlace() {
  const { name = "" } = useParams();
  const overview = useOverview();
  const reference = useReference();
  if (!overview.data || !reference.data) return null;
  return (
    <Sheet
      key={name}
      name={name}
      entry={reference.data.entries.find((e) => e.name === name && e.kind === "scripted")}
      overview={overview.data}
    />
  );
}

function Sheet({
  name,
  entry,
  overview,
}: {
  name: string;
  entry: Entry | undefined;
  overview: Overview;
}) {
  const path = `shortcodes/${name}.js`;
  const text = useText(path, entry !== undefined);
  const edit = useProposal([path], `Edit ${entry?.title ?? name}`);
  const callers = useCallers(name);
  const impact = edit.proposal?.impact;
  const problems = edit.proposal?.problems ?? [];
  const subject = useMemo<WallSubject>(() => {
    if (impact && edit.proposal)
      return {
        question: "would",
        about: "What would this edit change?",
        states: effectStates(impact.effects),
        against: edit.proposal.id,
      };
    const on = new Set(callers.data);
    return {
      question: "stands",
      about: `Where is ${entry?.title ?? name} called?`,
      states: overview.pages.map((p): State => (on.has(p.path) ? "linked" : "none")),
      against: "live",
    };
  }, [impact, edit.proposal, callers.data, overview.pages, entry, name]);
  useWallSubject(subject);
  const save = useCallback(() => {
    edit.save().then(
      (s) => tellSaved(s.title),
      (e: unknown) => tell((e as Error).message, "error"),
    );
  }, [edit]);
  const savable = edit.dirty && edit.fresh && problems.length === 0 && !text.stale && !edit.saving;
  useSaveKey(edit.dirty && !edit.fresh, savable, save);
  const tried = useDeferredValue(text.text); // the wall comes first
  const changes = useMemo(
    () => (tried !== text.saved || !entry ? [{ path, before: text.hash, text: tried }] : []),
    [tried, text.saved, text.hash, entry, path],
  );
  const pages = callers.data?.length ?? 0;
  if (!entry && !text.dirty)
    return (
      <p className="empty" role="alert">
        There is no script {name}. Choose another from the shelf, or make one in the reference.
      </p>
    );
  return (
    <>
      <div className="subject">
        <h1>{entry?.title ?? name}</h1>
        <CallChip call={entry?.call ?? `@{${name} /}`} />
        <span className="soft">
          {entry ? `called on ${pages} ${pages === 1 ? "page" : "pages"}` : "not saved yet"}
          {entry && !entry.on ? `; its set ${entry.set} is switched off` : ""}
        </span>
      </div>
      {edit.dirty ? (
        <Say
          tone={problems.length ? "bad" : "would"}
          actions={
            <>
              <Button variant="outlined" color="secondary" onClick={text.drop}>
                Discard
              </Button>
              <Button variant="contained" disabled={!savable} onClick={save} title="Ctrl+S">
                Save to draft
              </Button>
            </>
          }
        >
          {problems[0] ? (
            <span className="bad-text">
              This cannot be saved yet: line {problems[0].line}: {problems[0].message}
            </span>
          ) : edit.failed ? (
            <span className="bad-text">{edit.failed}</span>
          ) : impact ? (
            <Sentence text={impact.sentence} />
          ) : (
            "Working out what this changes…"
          )}
        </Say>
      ) : (
        <Say tone="quiet">
          <span className="soft">
            {entry?.about || "Edit the script, and the wall shows which pages that would change."}
          </span>
        </Say>
      )}
      {text.stale ? (
        <Conflict
          path={path}
          theirs={text.saved}
          mine={text.text}
          keep={() => text.rebase(text.text)}
          drop={text.drop}
        />
      ) : (
        <div className="halves">
          <div className="panel">
            <div className="bar">
              <b>{path}</b>
              <span className="right">{text.dirty ? "unsaved" : ""}</span>
            </div>
            <div className="code-box">
              <Suspense fallback={<p className="empty">Opening the editor…</p>}>
                {text.loaded && (
                  <Editor
                    key={path}
                    path={path}
                    text={text.text}
                    change={text.set}
                    problems={problems}
                    label={`Source of ${path}`}
                  />
                )}
              </Suspense>
            </div>
            {problems.length > 0 && (
              <ul className="problems" aria-label="Problems">
                {problems.map((p) => (
                  <li key={`${p.path}${p.line}${p.column}${p.code}`}>
                    <b>
                      {p.path}:{p.line}:{p.column}
                    </b>{" "}
                    {p.message}
                  </li>
                ))}
              </ul>
            )}
          </div>
          {text.loaded && (
            <TryOut
              name={name}
              text={tried}
              changes={changes}
              sample={entry?.sample ?? ""}
              overview={overview}
            />
          )}
        </div>
      )}
    </>
  );
}
