import Button from "@mui/material/Button";
import { useState } from "react";
import type { OperationOf, Schemas } from "../../api/client";
import { Answer } from "../usePending";
import { useLiveOperation } from "../useOperation";

/** Values that documents give to fields which the block has no more: the field comes back
 *  with them, or they are dropped. */
export function LostFields({
  block,
  orphans,
  done,
}: {
  block: string;
  orphans: Schemas["Mention"][];
  done: (title: string) => void;
}) {
  const [wanted, setWanted] = useState<OperationOf<"bring-back-field" | "drop-orphans"> | null>(
    null,
  );
  const live = useLiveOperation(wanted, (title) => {
    setWanted(null);
    done(title);
  });
  if (orphans.length === 0) return null;
  const fields = new Map<string, Schemas["Mention"][]>();
  for (const o of orphans) fields.set(o.field, [...(fields.get(o.field) ?? []), o]);
  return (
    <section className="misfits" aria-label="Values without a field">
      {[...fields].map(([field, list]) => (
        <div key={field}>
          <b>{field}</b>: {list.length === 1 ? "1 value stands" : `${list.length} values stand`}{" "}
          where the block has no such field, without effect
          <Button
            size="small"
            onClick={() => setWanted({ operation: "bring-back-field", block, field })}
          >
            Bring the field back
          </Button>
          <Button
            size="small"
            onClick={() => setWanted({ operation: "drop-orphans", block, field })}
          >
            Drop {list.length === 1 ? "it" : "them"}
          </Button>
          <details>
            <summary>Where</summary>
            <ul>
              {list.slice(0, 100).map((m) => (
                <li key={m.doc + m.address + m.text}>
                  <code>{m.page || m.doc}</code> <span className="soft">{m.address}</span>{" "}
                  <b>{m.text}</b>
                </li>
              ))}
            </ul>
          </details>
          {wanted?.field === field && (
            <p role="status">
              <Answer error={live.error} operated={live.operated} />{" "}
              <Button
                size="small"
                variant="contained"
                disabled={!live.savable}
                onClick={live.carryOut}
              >
                {wanted.operation === "bring-back-field" ? "Bring it back" : "Drop for good"}
              </Button>{" "}
              <Button size="small" onClick={() => setWanted(null)}>
                Leave it
              </Button>
            </p>
          )}
        </div>
      ))}
    </section>
  );
}
