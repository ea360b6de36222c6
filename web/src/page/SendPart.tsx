import Button from "@mui/material/Button";
import { useState } from "react";
import type { Operation, Overview, PagePart } from "../api/client";
import { Picked } from "../shared/fields/Picked";

/** Chooses the page to which a part of this one goes. */
export function SendPart({
  part,
  doc,
  overview,
  ask,
  close,
}: {
  part: PagePart;
  doc: string;
  overview: Overview;
  ask: (verb: string, o: Operation) => void;
  close: () => void;
}) {
  const [to, setTo] = useState("");
  const page = overview.pages.find((p) => p.path === to && p.doc !== doc);
  return (
    <form
      className="elsewhere"
      aria-label="Move to another page"
      onKeyDown={(e) => e.key === "Escape" && close()}
      onSubmit={(e) => {
        e.preventDefault();
        if (!page) return;
        ask("Move it there", {
          operation: "send-part",
          doc,
          from: part.from,
          to: page.doc,
          region: part.region,
        });
        close();
      }}
    >
      <div style={{ width: 280 }}>
        <Picked
          label={`Move ${part.name || "the text"} to the page`}
          error={false}
          helperText=""
          value={to}
          change={setTo}
          options={overview.pages
            .filter((p) => p.doc !== doc)
            .map((p) => ({ value: p.path, title: p.title }))}
        />
      </div>
      <Button type="submit" size="small" variant="contained" disabled={!page}>
        See what it changes
      </Button>
      <Button size="small" color="secondary" onClick={close}>
        Leave it
      </Button>
    </form>
  );
}
