import Button from "@mui/material/Button";
import { useQuery } from "@tanstack/react-query";
import { lazy, Suspense, useMemo, useState } from "react";
import type { Schemas } from "../../api/client";
import { useRevision, useRevisionImpact, useRevisions } from "../../api/copies";
import { documentOf, useSite } from "../../api/queries";
import { effectStates } from "../states";
import { Tabs } from "../Tabs";
import { usePending } from "../usePending";
import { Waiting } from "../Waiting";
import { useWallSubject, type WallSubject } from "../wall/subject";
import { ChangedPages } from "./ChangedPages";
import { Signature } from "./Signature";

const Diff = lazy(() => import("../editor/Diff"));

type Revision = Schemas["Revision"];

interface Props {
  /** The documents whose history it is, each with what it is called; the first is shown. */
  paths: readonly (readonly [string, string])[];
  /** What is on the wall while nothing is about to be brought back. */
  idle: WallSubject | null;
}

/** What a document was, and how it is brought back: with what that changes said before. */
export function History({ paths, idle }: Props) {
  const [path, setPath] = useState(paths[0]?.[0] ?? "");
  const pending = usePending();
  const [looked, look] = useState(0);
  const did = useDid(looked);
  useWallSubject(pending.subject ?? did ?? idle);
  return (
    <div className="history">
      {pending.bar}
      {paths.length > 1 && (
        <div className="bar">
          <Tabs label="History of" className="" value={path} choose={setPath} tabs={paths} />
        </div>
      )}
      <Revisions
        key={path}
        path={path}
        looked={looked}
        look={look}
        bringBack={(r) =>
          pending.ask("Bring it back", { operation: "bring-back", path, hash: r.hash })
        }
      />
    </div>
  );
}

/** On the wall: which pages an edit changed when it was made; null for none. */
function useDid(edit: number): WallSubject | null {
  const { data } = useRevisionImpact(edit);
  return useMemo(
    () =>
      edit !== 0 && data
        ? {
            question: "did",
            about: "What did this edit change?",
            states: effectStates(data.effects),
            against: "live",
          }
        : null,
    [edit, data],
  );
}

interface RevisionsProps {
  path: string;
  /** The edit of which one sees which pages it changed, 0 for none. */
  looked: number;
  look: (edit: number) => void;
  bringBack: (r: Revision) => void;
}

function Revisions({ path, looked, look, bringBack }: RevisionsProps) {
  const site = useSite();
  const { data, error } = useRevisions(path);
  const now = useQuery({ ...documentOf(site, path), retry: false });
  const [compared, setCompared] = useState<Revision | null>(null);
  if (error || !data) return <Waiting error={error}>Looking what it was…</Waiting>;
  if (data.length === 0)
    return <p className="empty">It is as it was taken in; nothing of it has been changed since.</p>;
  const present = now.data?.hash ?? "";
  return (
    <div className="scroll" tabIndex={0} role="region" aria-label="What it was">
      <Signature />
      <ol>
        {data.map((r, i) => (
          <li key={`${r.id} ${r.hash}`}>
            <div className="revision">
              <span>
                <b>{r.id === 0 ? "As it was at first" : r.title}</b>{" "}
                {r.id !== 0 && (
                  <time className="soft" dateTime={r.at}>
                    {new Date(r.at).toLocaleString([], { dateStyle: "medium", timeStyle: "short" })}
                  </time>
                )}
                {r.author && <span className="soft"> by {r.author}</span>}
                {r.hash === "" && <span className="soft"> It was deleted.</span>}
                {r.hash === present && <span className="soft"> It is this now.</span>}
              </span>
              <span className="end">
                {r.id !== 0 && (
                  <Button
                    color="secondary"
                    aria-expanded={looked === r.id}
                    aria-label={`Pages that ${named(r, i)} changed`}
                    onClick={() => look(looked === r.id ? 0 : r.id)}
                  >
                    Pages
                  </Button>
                )}
                {r.hash !== "" && r.hash !== present && (
                  <Button
                    color="secondary"
                    aria-expanded={compared === r}
                    aria-label={`Compare ${named(r, i)} with now`}
                    onClick={() => setCompared(compared === r ? null : r)}
                  >
                    Compare
                  </Button>
                )}
                {r.hash !== present && r.hash !== "" && (
                  <Button aria-label={`Bring back ${named(r, i)}`} onClick={() => bringBack(r)}>
                    Bring back
                  </Button>
                )}
              </span>
            </div>
            {looked === r.id && r.id !== 0 && <ChangedPages edit={r.id} />}
            {compared === r && <Compared path={path} hash={r.hash} now={now.data?.text ?? ""} />}
          </li>
        ))}
      </ol>
    </div>
  );
}

/** A revision as a button's name has it: several can have one title. */
const named = (r: Revision, i: number) =>
  r.id === 0 ? "as it was at first" : `${r.title}, ${i === 0 ? "the last" : `${i} before`}`;

function Compared({ path, hash, now }: { path: string; hash: string; now: string }) {
  const { data, error } = useRevision(path, hash);
  if (error || data === undefined) return <Waiting error={error}>Reading it…</Waiting>;
  return (
    <Suspense fallback={<p className="soft">Comparing…</p>}>
      <Diff before={data} after={now} label="As it was then, and now" />
    </Suspense>
  );
}

/** The history of a document that has no tabs, folded away until it is asked for. */
export function HistoryFold(props: Props) {
  const [open, setOpen] = useState(false);
  return (
    <details className="history-fold" onToggle={(e) => setOpen(e.currentTarget.open)}>
      <summary>History</summary>
      {open && <History {...props} />}
    </details>
  );
}
