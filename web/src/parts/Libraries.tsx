import { Link } from "react-router";
import type { Overview } from "../api/client";
import { useLibraries } from "../api/parts";
import { placeOf } from "../shared/placeOf";
import { states, updates } from "./words";

/** The sites from which blocks of this one came, and what they became there. */
export function Libraries({ overview, own }: { overview: Overview; own: boolean }) {
  const { data } = useLibraries();
  return (
    <section className="panel" aria-label="Libraries">
      <div className="scroll part-along">
        <p className="soft">
          {own
            ? "Choose what is to be taken elsewhere, or another site or zip to bring something of it in."
            : "Choose what is to come in; all that it needs comes along."}
        </p>
        {(data ?? []).map((l) => {
          const query = new URLSearchParams([
            ["from", l.site],
            ...l.units.filter((u) => u.state !== "gone").map((u) => ["of", u.of]),
          ]).toString();
          const n = updates(l);
          return (
            <section key={l.site} aria-label={`From ${l.title}`}>
              <h2>From {l.title}</h2>
              <p>
                {!l.there
                  ? "That site is not here any more; what came from it stays as it is."
                  : n === 0
                    ? "Nothing of it changed there since it came."
                    : `${n} ${n === 1 ? "was" : "were"} changed there since.`}{" "}
                {l.there && <Link to={`?${query}`}>Compare all</Link>}
              </p>
              <ul>
                {l.units.map((u) => (
                  <li key={u.id}>
                    <Link to={placeOf(overview.name, u.id, overview).to}>{u.title}</Link>{" "}
                    <span className="soft">
                      {u.state === "gone" ? "not there any more" : states[u.state]}
                    </span>
                  </li>
                ))}
              </ul>
            </section>
          );
        })}
      </div>
    </section>
  );
}
