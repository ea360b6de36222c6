import { Link } from "react-router";
import type { Explanation } from "../api/client";
import { useSite } from "../api/queries";

const most = 3;

/** The styles and behaviours that a page loads, and through which placements. */
export function Loads({ loads }: { loads: Explanation["loads"] }) {
  const site = useSite();
  if (loads.length === 0) return null;
  return (
    <section className="loads" aria-label="What the page loads">
      <h2>What the page loads</h2>
      <ul>
        {loads.map((l) => (
          <li key={`${l.url} ${l.kind}`}>
            {l.kind === "style" ? "The style" : "The behaviour"} of{" "}
            {l.block ? (
              <Link
                to={`/${site}/blocks/${l.block}${l.kind === "behaviour" ? "?part=behaviour" : "?part=style"}`}
              >
                {l.block}
              </Link>
            ) : (
              "a block as it was"
            )}
            {l.block && !l.present && ", in an older revision"}
            {l.each && ", for each placement"}
            {l.through.length > 0 && (
              <span className="soft">
                : <code>{l.through.slice(0, most).join(", ")}</code>
                {l.through.length > most && ` and ${l.through.length - most} more`}
              </span>
            )}
            {l.needed.length > 0 && <span className="soft">: {l.needed.join(", ")} needs it</span>}
          </li>
        ))}
      </ul>
    </section>
  );
}
