import Button from "@mui/material/Button";
import { Link } from "react-router";
import type { Site } from "../api/client";
import { partZip, useUnits, type Unit } from "../api/parts";
import { kindOf } from "./words";

/** What was chosen of this site, with what comes along, and where it can go. */
export function Taking({ site, of, sites }: { site: string; of: string[]; sites: Site[] }) {
  const units = useUnits(site, of);
  const others = sites.filter((s) => s.name !== site);
  const query = new URLSearchParams([["from", site], ...of.map((id) => ["of", id])]).toString();
  return (
    <section className="panel" aria-label="What is taken">
      <div className="bar part-ways">
        <Button
          variant="outlined"
          color="secondary"
          component="a"
          href={partZip(site, of)}
          download
        >
          Save as a zip
        </Button>
        {others.length > 0 && <span className="soft">or take it into</span>}
        {others.map((s) => (
          <Button
            key={s.name}
            variant="contained"
            component={Link}
            to={`/${s.name}/parts?${query}`}
          >
            {s.title}
          </Button>
        ))}
      </div>
      {units.error ? (
        <p className="empty" role="alert">
          {units.error.message}
        </p>
      ) : (
        units.data && <Along units={units.data} />
      )}
    </section>
  );
}

function Along({ units }: { units: Unit[] }) {
  const titles = new Map(units.map((u) => [u.id, u.title]));
  const along = units.filter((u) => u.for.length > 0);
  return (
    <div className="scroll part-along">
      <p>
        {along.length === 0
          ? "It needs nothing else."
          : `${along.length} more ${along.length === 1 ? "comes" : "come"} along, since what is chosen needs ${along.length === 1 ? "it" : "them"}.`}
      </p>
      <ul>
        {units.map((u) => (
          <li key={u.id}>
            <b>{u.title}</b>{" "}
            <span className="soft">
              {kindOf(u)}
              {u.for.length > 0 && `, for ${u.for.map((id) => titles.get(id) ?? id).join(", ")}`}
            </span>
          </li>
        ))}
      </ul>
    </div>
  );
}
