import Button from "@mui/material/Button";
import { useState } from "react";
import type { Explanation, Operation } from "../api/client";
import { Choice } from "../shared/Choice";

/** What the page says of addresses at which nothing stands any more: aimed at another
 *  placement, or dropped. */
export function Orphans({
  story,
  settled,
  ask,
}: {
  story: Explanation;
  settled: boolean;
  ask: (verb: string, operation: Operation) => void;
}) {
  const [aims, setAims] = useState<Record<string, string>>({});
  if (story.orphans.length === 0) return null;
  return (
    <section className="region orphans" aria-label="Settings without a placement">
      <h2>Settings without a placement</h2>
      <ul className="losers">
        {story.orphans.map((o) => {
          const to = aims[o.address] ?? (o.doubled ? "" : o.meant);
          return (
            <li key={o.address}>
              <code>{o.address}</code> <b>{o.said}</b>
              {o.meant && (
                <span className="soft">
                  {" "}
                  The call there has a key, so its address is <code>{o.meant}</code>
                  {o.doubled && ", of which the page says something too, and that is what counts"}.
                </span>
              )}
              <span className="orphan-acts">
                {o.could.length > 0 && (
                  <>
                    <Choice
                      label={`New address for ${o.address}`}
                      value={to}
                      prompt="Another place…"
                      choose={(a) => setAims((all) => ({ ...all, [o.address]: a }))}
                      options={o.could.map((a) => [a, a])}
                    />
                    <Button
                      size="small"
                      disabled={!settled || !to}
                      onClick={() =>
                        ask("Aim it there", {
                          operation: "retarget",
                          doc: story.doc,
                          address: o.address,
                          to,
                        })
                      }
                    >
                      Aim it there
                    </Button>
                  </>
                )}
                <Button
                  size="small"
                  disabled={!settled}
                  onClick={() =>
                    ask("Drop it", {
                      operation: "retarget",
                      doc: story.doc,
                      address: o.address,
                      to: "",
                    })
                  }
                >
                  Drop it
                </Button>
              </span>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
