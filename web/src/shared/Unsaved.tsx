import Button from "@mui/material/Button";
import { Fragment, useState } from "react";
import { Link, useLocation } from "react-router";
import type { Overview } from "../api/client";
import { useBuffers } from "./buffers";
import type { Kept } from "./kept";
import { placesOf, type Known } from "./placeOf";
import { Say } from "./Say";

/** What is not saved elsewhere than where one is, and what closed tabs left unsaved. */
export function Unsaved({ overview }: { overview: Overview }) {
  const site = overview.name;
  const buffers = useBuffers();
  const { pathname, search } = useLocation();
  const doc = new URLSearchParams(search).get("doc");
  const here = pathname + (doc ? `?doc=${encodeURIComponent(doc)}` : "");
  const elsewhere = placesOf(site, buffers.unsaved(site), overview).filter((k) => k.to !== here);
  const left = buffers.left.filter((k) =>
    Object.keys(k.all).some((key) => key.startsWith(`${site}:`)),
  );
  return (
    <>
      {elsewhere.length > 0 && (
        <p className="unsaved" role="status">
          Unsaved in <Places list={elsewhere} />.
        </p>
      )}
      {left.map((k) => (
        <Left key={k.tab} kept={k} overview={overview} />
      ))}
    </>
  );
}

function Places({ list }: { list: Known[] }) {
  return list.map((k, i) => (
    <Fragment key={k.to}>
      {i > 0 && ", "}
      <Link to={k.to}>{k.title}</Link>
    </Fragment>
  ));
}

/** What a tab had not saved when it was closed: taken up, or let go once it was seen. */
function Left({ kept, overview }: { kept: Kept; overview: Overview }) {
  const { takeUp, letGo } = useBuffers();
  const [seen, setSeen] = useState(false);
  const site = overview.name;
  const mine = Object.entries(kept.all).filter(([key]) => key.startsWith(`${site}:`));
  const places = placesOf(
    site,
    mine.map(([key]) => key.slice(site.length + 1)),
    overview,
  );
  return (
    <>
      <Say
        tone="would"
        actions={
          <>
            <Button
              variant="outlined"
              color="secondary"
              onClick={() => setSeen(!seen)}
              aria-expanded={seen}
            >
              Look at it
            </Button>
            {seen && (
              <Button variant="outlined" color="error" onClick={() => letGo(kept)}>
                Discard it
              </Button>
            )}
            <Button variant="contained" onClick={() => takeUp(kept)}>
              Go on with it
            </Button>
          </>
        }
      >
        <b>Not saved when a tab was closed</b>,{" "}
        <time dateTime={new Date(kept.at).toISOString()}>
          {new Date(kept.at).toLocaleString([], { dateStyle: "medium", timeStyle: "short" })}
        </time>
        : <Places list={places} />.
      </Say>
      {seen && (
        <div className="left-texts">
          {mine.map(([key, b]) => (
            <figure key={key}>
              <figcaption className="mono">{key.slice(site.length + 1)}</figcaption>
              <pre tabIndex={0}>{b.text}</pre>
            </figure>
          ))}
        </div>
      )}
    </>
  );
}
