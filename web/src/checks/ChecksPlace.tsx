import { Link } from "react-router";
import type { Finding } from "../api/client";
import { useFindings, useSite } from "../api/queries";
import { Rows } from "../shared/Rows";
import { useWallSubject } from "../shared/wall/subject";

/** What is wrong in the draft, and where. */
export function ChecksPlace() {
  const { data } = useFindings();
  useWallSubject(null);
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
        {data.list.length === 0 && data.checked && <p className="empty">Nothing to mend.</p>}
        <Rows
          label="Findings"
          items={data.list}
          keyOf={(f) => `${f.path}:${f.line}:${f.column}:${f.code}:${f.message}`}
          row={(f) => <Row finding={f} />}
        />
      </div>
    </>
  );
}

/** Findings and notes, counted apart as at the top of the screen. */
function counted(list: Finding[]): string {
  const notes = list.filter((f) => f.severity === "note").length;
  const found = list.length - notes;
  return `${found} ${found === 1 ? "finding" : "findings"}${notes > 0 ? ` and ${notes} ${notes === 1 ? "note" : "notes"}` : ""}`;
}

function Row({ finding: f }: { finding: Finding }) {
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
      </span>
      <span className="end">{to ? <Link to={to}>{where}</Link> : where}</span>
    </div>
  );
}
