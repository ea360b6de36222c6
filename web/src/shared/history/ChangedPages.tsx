import { Link } from "react-router";
import { useRevisionImpact } from "../../api/copies";
import { useOverview, useSite } from "../../api/queries";
import { effectStates } from "../states";
import { Waiting } from "../Waiting";

/** How many pages are named. */
const named = 12;

/** The pages that an edit changed when it was made. */
export function ChangedPages({ edit }: { edit: number }) {
  const site = useSite();
  const { data, error } = useRevisionImpact(edit);
  const { data: overview } = useOverview();
  if (error || !data || !overview)
    return <Waiting error={error}>Looking which pages it changed…</Waiting>;
  const states = effectStates(data.effects);
  const pages = overview.pages.filter(
    (p, i) => states[i] === "change" || data.added.includes(p.path),
  );
  const total = Object.values(data.counts).reduce((a, n) => a + n, 0);
  return (
    <p className="soft changed-pages">
      {total === 0
        ? "It changed no page."
        : `It changed ${total === 1 ? "a page" : `${total} pages`}: `}
      {pages.slice(0, named).map((p, i) => (
        <span key={p.path}>
          {i > 0 && ", "}
          <Link to={`/${site}/pages?doc=${encodeURIComponent(p.doc)}`}>{p.title || p.path}</Link>
        </span>
      ))}
      {pages.length > named && ` and ${pages.length - named} more, as the wall shows`}
      {total > pages.length &&
        `${pages.length > 0 ? "; " : ""}${total - pages.length} of them ${total - pages.length === 1 ? "is" : "are"} not there any more`}
    </p>
  );
}
