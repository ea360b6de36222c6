import Button from "@mui/material/Button";
import { useMemo, useState } from "react";
import { Link, useSearchParams } from "react-router";
import type { Finding, Operation, Schemas } from "../api/client";
import { useCopies } from "../api/copies";
import { useFindings, useOverlays, useOverview, useSite } from "../api/queries";
import { CopyBeside } from "../shared/copies/CopyBeside";
import { actsOf } from "../shared/copies/acts";
import { Doing } from "../shared/copies/Doing";
import {
  standingOrder,
  standingStates,
  standingWords,
  type Standing,
} from "../shared/copies/standings";
import { useActing } from "../shared/copies/useActing";
import { tellSaved } from "../shared/notices";
import { Rows } from "../shared/Rows";
import { Tabs } from "../shared/Tabs";
import { usePending } from "../shared/usePending";
import { usePut } from "../shared/usePut";
import { Waiting } from "../shared/Waiting";
import { useWallSubject, type WallSubject } from "../shared/wall/subject";

/** What is wrong in the draft, and where. */
export function ChecksPlace() {
  const { data } = useFindings();
  const { data: copies, error: failed } = useCopies();
  const put = usePut();
  const [params] = useSearchParams();
  const tab = params.get("tab") === "copies" ? "copies" : "findings";
  const { data: overview } = useOverview();
  const subject = useMemo<WallSubject | null>(() => {
    if (tab !== "copies" || !copies || !overview) return null;
    const holding = new Map<string, Standing>(); // of several on a page, the one with most to decide
    for (const standing of standingOrder.toReversed())
      for (const c of copies) if (c.standing === standing) holding.set(c.page, standing);
    return {
      question: "copies",
      about: "How do the one-off copies stand?",
      states: overview.pages.map((p) => {
        const standing = holding.get(p.path);
        return standing ? standingStates[standing] : "none";
      }),
      against: "live",
    };
  }, [tab, copies, overview]);
  const acting = useActing(tellSaved);
  const pending = usePending();
  const overlays = useOverlays();
  useWallSubject(acting.subject ?? pending.subject ?? subject);
  if (!data) return null;
  return (
    <>
      <div className="subject">
        <h1>Checks</h1>
        <span className="soft">
          {counted(data.list)} in the draft{data.checked ? "" : ", still checking"}
        </span>
      </div>
      <div className="panel" style={{ margin: "4px 16px 12px", flex: 1 }}>
        <div className="bar">
          <Tabs
            label="What is checked"
            className=""
            value={tab}
            choose={(t) => put("tab", t)}
            tabs={[
              ["findings", "Findings"],
              ["copies", copies ? `One-off copies ${copies.length}` : "One-off copies"],
            ]}
          />
        </div>
        {tab === "copies" ? (
          copies ? (
            <Copies copies={copies} acting={acting} />
          ) : (
            <Waiting error={failed}>Looking how they stand…</Waiting>
          )
        ) : (
          <>
            {pending.bar}
            {data.list.length === 0 && data.checked && <p className="empty">Nothing to mend.</p>}
            <Rows
              label="Findings"
              items={data.list}
              keyOf={(f) => `${f.path}:${f.line}:${f.column}:${f.code}:${f.message}`}
              row={(f) => (
                <Row finding={f} mends={mendsOf(f, overlays.data ?? [])} mend={pending.ask} />
              )}
            />
          </>
        )}
      </div>
    </>
  );
}

/** The copies of all pages, those first that have something to decide. */
function Copies({
  copies,
  acting,
}: {
  copies: Schemas["Copy"][];
  acting: ReturnType<typeof useActing>;
}) {
  const site = useSite();
  const [compared, setCompared] = useState<Schemas["Copy"] | null>(null);
  const sorted = [...copies].sort(
    (a, b) => standingOrder.indexOf(a.standing) - standingOrder.indexOf(b.standing),
  );
  const behind = sorted.filter((c) => actsOf({ kind: "copy", ...c }).includes("update"));
  if (sorted.length === 0) return <p className="empty">No page holds a one-off copy.</p>;
  return (
    <>
      {acting.wanted ? (
        <div className="chosen">
          <Doing {...acting.doing} act={acting.wanted.act} spots={acting.wanted.spots} />
        </div>
      ) : (
        behind.length > 0 && (
          <div className="bar">
            <span className="soft">
              {behind.length} {behind.length === 1 ? "copy has" : "copies have"} fallen behind
            </span>
            <span className="right">
              <Button onClick={() => acting.want("update", behind)}>
                {behind.length === 1
                  ? "Update it from its block"
                  : `Update all ${behind.length} from their blocks`}
              </Button>
            </span>
          </div>
        )
      )}
      {compared && (
        <div className="copy-pending">
          <CopyBeside doc={compared.doc} address={compared.address} />
        </div>
      )}
      <Rows
        label="One-off copies"
        items={sorted}
        keyOf={(c) => `${c.doc} ${c.address}`}
        row={(c) => (
          <div className="finding">
            <Link to={`/${site}/blocks/${c.of}?tab=placements`}>{c.of}</Link>
            <span>
              <b>{c.title}</b> <span className="soft">{c.page}</span>: {standingWords[c.standing]}
              {c.why && <span className="soft">; {c.why}</span>}
            </span>
            <span className="end">
              <button
                type="button"
                className="plain word"
                aria-pressed={c === compared}
                aria-label={`Compare on ${c.title}`}
                onClick={() => setCompared(c === compared ? null : c)}
              >
                Compare
              </button>{" "}
              <Link to={`/${site}/pages?doc=${encodeURIComponent(c.doc)}`}>
                <span className="mono">{c.address}</span>
              </Link>
            </span>
          </div>
        )}
      />
    </>
  );
}

/** Findings and notes, counted apart as at the top of the screen. */
function counted(list: Finding[]): string {
  const notes = list.filter((f) => f.severity === "note").length;
  const found = list.length - notes;
  return `${found} ${found === 1 ? "finding" : "findings"}${notes > 0 ? ` and ${notes} ${notes === 1 ? "note" : "notes"}` : ""}`;
}

/** What would mend a finding, by what the button says. */
function mendsOf(f: Finding, overlays: Schemas["Overlay"][]): [string, Operation][] {
  const id = f.code === "missing-target" ? /^.*?leads to #(\S+),/.exec(f.message)?.[1] : undefined;
  const over = overlays.find((o) => o.id === id);
  if (!over || !f.path.startsWith("pages/")) return [];
  const host = { operation: "host-overlay", block: over.block, id: over.id } as const;
  return [
    ["Host it on this page", { ...host, doc: f.path }],
    ["Host it on all pages that lead to it", host],
  ];
}

function Row({
  finding: f,
  mends,
  mend,
}: {
  finding: Finding;
  mends: [string, Operation][];
  mend: (verb: string, operation: Operation) => void;
}) {
  const site = useSite();
  const block = /^blocks\/([^.]+)\./.exec(f.path)?.[1];
  const where = (
    <span className="mono">
      {f.path}:{f.line}:{f.column}
    </span>
  );
  const to = block
    ? `/${site}/blocks/${block}`
    : f.path.startsWith("pages/")
      ? `/${site}/pages?doc=${encodeURIComponent(f.path)}`
      : "";
  return (
    <div className="finding">
      <b className={f.severity === "error" ? "bad-text" : "soft"}>{f.severity}</b>
      <span>
        {f.message}
        {f.pages !== undefined && (
          <span className="soft">
            {" "}
            On {f.pages} {f.pages === 1 ? "page" : "pages"}.
          </span>
        )}
        {mends.map(([verb, operation]) => (
          <Button
            key={verb}
            size="small"
            sx={{ padding: "0 6px" }}
            onClick={() => mend(verb, operation)}
          >
            {verb}
          </Button>
        ))}
      </span>
      <span className="end">{to ? <Link to={to}>{where}</Link> : where}</span>
    </div>
  );
}
