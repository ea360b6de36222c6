import { Waiting } from "../shared/Waiting";
import { useCallback, useDeferredValue, useMemo } from "react";
import { Halves } from "../shared/Halves";
import { useParams } from "react-router";
import type { Entry, Overview } from "../api/client";
import { useCallers, useOverview, useReference } from "../api/queries";
import { CallChip } from "../shared/calls/CallChip";
import { StaleText } from "../shared/editor/StaleText";
import { tell, tellSaved } from "../shared/notices";
import { type State } from "../shared/states";
import { useProposal, useText } from "../shared/useEdit";
import { useSaveKey } from "../shared/useSaveKey";
import { useWallSubject, useWould, type WallSubject } from "../shared/wall/subject";
import { TryOut } from "./TryOut";
import { CameFrom } from "../shared/CameFrom";
import { EditBar, IdleBar } from "../shared/EditBar";
import { HistoryFold } from "../shared/history/History";
import { ProblemList } from "../shared/ProblemList";
import { SourceBox } from "../shared/editor/SourceBox";

/** The Script place: a scripted shortcode's source beside a panel to try it out. */
export function ScriptPlace() {
  const { name = "" } = useParams();
  const overview = useOverview();
  const reference = useReference();
  if (!overview.data || !reference.data) return <Waiting error={null}>Opening…</Waiting>;
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
  const idle = useMemo<WallSubject>(() => {
    const on = new Set(callers.data);
    return {
      question: "stands",
      about: `Where is ${entry?.title ?? name} called?`,
      states: overview.pages.map((p): State => (on.has(p.path) ? "linked" : "none")),
      against: "live",
    };
  }, [callers.data, overview.pages, entry, name]);
  const subject = useWould(edit.proposal, idle);
  useWallSubject(subject);
  const save = useCallback(() => {
    edit.save().then(
      (s) => tellSaved(s.title),
      (e: unknown) => tell((e as Error).message, "error"),
    );
  }, [edit]);
  const savable = edit.dirty && edit.fresh && problems.length === 0 && !text.stale && !edit.saving;
  useSaveKey(edit.working, savable, save);
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
        <h1 dir="auto">{entry?.title ?? name}</h1>
        <CallChip call={entry?.call ?? `@{${name} /}`} />
        <span className="soft">
          {entry ? `called on ${pages} ${pages === 1 ? "page" : "pages"}` : "not saved yet"}
          {entry && !entry.on ? `; its set ${entry.set} is switched off` : ""}
        </span>
      </div>
      {edit.dirty ? (
        <EditBar
          impact={impact}
          problems={problems}
          failed={edit.failed}
          drop={text.drop}
          savable={savable}
          save={save}
        />
      ) : (
        <IdleBar
          words={
            entry?.about || "Edit the script, and the wall shows which pages that would change."
          }
        >
          <CameFrom id={path} />
        </IdleBar>
      )}
      {text.stale ? (
        <StaleText path={path} text={text} />
      ) : (
        <Halves place="script">
          <div className="panel">
            <div className="bar">
              <b>{path}</b>
              <span className="right">{text.dirty ? "unsaved" : ""}</span>
            </div>
            <SourceBox path={path} doc={text} problems={problems} />
            <ProblemList problems={problems} />
            {entry && <HistoryFold paths={[[path, "Script"]]} idle={subject} />}
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
        </Halves>
      )}
    </>
  );
}
