import { Link } from "react-router";
import { useFindings, useSite } from "../api/queries";
import { useWallSubject } from "../wall/subject";

/** What is wrong in the draft, and where. */
export function ChecksPlace() {
  const site = useSite();
  const { data } = useFindings();
  useWallSubject(null);
  if (!data) return null;
  return (
    <>
      <div className="subject"><h1>Checks</h1><span className="soft">{data.list.length} findings in the draft{data.checked ? "" : ", still checking"}</span></div>
      <div className="panel" style={{ margin: "4px 16px 12px", flex: 1 }}>
        <div className="scroll" tabIndex={0} role="region" aria-label="Findings">
          {data.list.length === 0 && data.checked && <p className="empty">Nothing to mend.</p>}
          <table className="rows">
            <thead><tr><th scope="col">Kind</th><th scope="col">Where</th><th scope="col">What</th></tr></thead>
            <tbody>{data.list.map((f) => {
              const block = /^blocks\/([^.]+)\./.exec(f.path)?.[1];
              const where = <span className="mono">{f.path}:{f.line}:{f.column}</span>;
              return (
                <tr key={`${f.path}:${f.line}:${f.column}:${f.code}:${f.message}`}>
                  <td style={f.severity === "error" ? { color: "var(--crimson)", fontWeight: 600 } : undefined}>{f.severity}</td>
                  <td>{block ? <Link to={`/${site}/blocks/${block}`}>{where}</Link> : f.path.startsWith("pages/") ? <Link to={`/${site}/pages?doc=${encodeURIComponent(f.path)}`}>{where}</Link> : where}</td>
                  <td>{f.message}</td>
                </tr>
              );
            })}</tbody>
          </table>
        </div>
      </div>
    </>
  );
}
