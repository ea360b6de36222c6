import Button from "@mui/material/Button";
import { lazy, Suspense, useState } from "react";
import type { Schemas } from "../api/client";
import { useLikenesses } from "../api/copies";
import { usePending } from "../shared/usePending";
import { useWallSubject, type WallSubject } from "../shared/wall/subject";

const Diff = lazy(() => import("../shared/editor/Diff"));

/** How many the server tells of. */
const most = 1000;

type Likeness = Schemas["Likeness"];

/** Pieces of pages and other blocks that look like a block and follow it no more than any other text: made
 *  placements of it, or copies that tell how they stand. Nothing where there are none. */
export function Likenesses({ block, idle }: { block: string; idle: WallSubject }) {
  const { data } = useLikenesses(block);
  const pending = usePending();
  const [compared, setCompared] = useState("");
  const [shown, setShown] = useState(20);
  useWallSubject(pending.subject ?? idle);
  if (!data || data.length === 0) return null;
  const adopt = (list: Likeness[], link: boolean) =>
    pending.ask(link ? "Link" : "Declare", {
      operation: "adopt",
      block,
      link,
      places: list.map(({ doc, from, to }) => ({ doc, from, to })),
    });
  const fitting = data.filter((l) => l.lost.length === 0);
  return (
    <section className="likenesses" aria-label="Looks like it">
      {pending.bar}
      <div className="bar">
        <b>
          {data.length === 1
            ? "A piece of a text looks like it and is not linked"
            : `${data.length} pieces of texts${data.length === most ? ", and maybe more," : ""} look like it and are not linked`}
        </b>
        <span className="right">
          {fitting.length > 1 && (
            <Button onClick={() => adopt(fitting, true)}>
              Link the {fitting.length} of which nothing goes
            </Button>
          )}
        </span>
      </div>
      <ul>
        {data.slice(0, shown).map((l) => {
          const key = `${l.doc} ${l.from}`;
          return (
            <li key={key}>
              <div className="revision">
                <span>
                  <b>{l.title}</b>{" "}
                  <span className="soft">{l.page || "in the text of the block"}</span>
                  {l.fits.length > 0 && (
                    <span className="soft">
                      {" "}
                      with {l.fits.map((f) => `${f.label}: ${f.words}`).join(", ")}
                    </span>
                  )}
                  {l.lost.length > 0 && (
                    <span className="bad-text">
                      {" "}
                      {l.lost.length === 1 ? "A line" : `${l.lost.length} lines`} would go.
                    </span>
                  )}
                </span>
                <span className="end">
                  {l.text !== l.linked && (
                    <Button
                      color="secondary"
                      aria-expanded={compared === key}
                      aria-label={`Compare the piece on ${l.title}`}
                      onClick={() => setCompared(compared === key ? "" : key)}
                    >
                      Compare
                    </Button>
                  )}
                  <Button
                    color="secondary"
                    aria-label={`Declare the piece on ${l.title} a copy`}
                    onClick={() => adopt([l], false)}
                  >
                    Declare a copy
                  </Button>
                  <Button
                    aria-label={`Link the piece on ${l.title}`}
                    onClick={() => {
                      if (l.text !== l.linked) setCompared(key); // what goes is shown
                      adopt([l], true);
                    }}
                  >
                    Link
                  </Button>
                </span>
              </div>
              {compared === key && (
                <Suspense fallback={<p className="soft">Comparing…</p>}>
                  <Diff
                    before={l.text}
                    after={l.linked}
                    label="The piece, and what stands there once it is linked"
                  />
                </Suspense>
              )}
            </li>
          );
        })}
      </ul>
      {data.length > shown && (
        <Button onClick={() => setShown(shown + 100)}>{data.length - shown} more</Button>
      )}
    </section>
  );
}
