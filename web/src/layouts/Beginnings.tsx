import TextField from "@mui/material/TextField";
import { useState } from "react";
import { Link } from "react-router";
import type { Layout } from "../api/client";
import { useRows, useSite } from "../api/queries";
import { InsertCall } from "../shared/calls/InsertCall";

/** What new pages of a type begin with, region by region; what is calls alone can be
 *  put on the pages that exist too. */
export function Beginnings({
  name,
  layout,
  saved,
  dirty,
  set,
}: {
  name: string;
  layout: Layout;
  saved: Layout;
  dirty: boolean;
  set: (keys: string[], value: unknown) => void;
}) {
  return (
    <div className="scroll">
      <div className="fields">
        {layout.regions.map((r) => (
          <Beginning
            key={r.name}
            layout={name}
            region={r.name}
            text={layout.starts_with[r.name] ?? ""}
            was={saved.starts_with[r.name] ?? ""}
            pages={saved.pages}
            dirty={dirty}
            set={set}
          />
        ))}
      </div>
    </div>
  );
}

interface Props {
  layout: string;
  region: string;
  text: string;
  was: string;
  pages: number;
  dirty: boolean;
  set: (keys: string[], value: unknown) => void;
}

function Beginning({ layout, region, text, was, pages, dirty, set }: Props) {
  const site = useSite();
  const [typed, setTyped] = useState<string | null>(null);
  const rows = useRows("blocks/these.html", text);
  const now = typed ?? text;
  const put = (value: string) => {
    setTyped(value);
    set(["starts_with", region], value || null);
  };
  const calls = text !== "" && (rows.data?.length ?? 0) > 0;
  const query = new URLSearchParams({ layout, region, calls: text });
  return (
    <div>
      <TextField
        fullWidth
        multiline
        minRows={1}
        maxRows={6}
        label={`New pages begin in ${region} with`}
        value={now}
        onChange={(e) => put(e.target.value)}
        onBlur={() => setTyped(null)}
        slotProps={{
          htmlInput: { style: { fontFamily: "var(--mono)", fontSize: 13 }, spellCheck: false },
        }}
      />
      <span
        className="soft"
        style={{ display: "flex", gap: 10, alignItems: "center", minHeight: 26 }}
      >
        <InsertCall
          label={`Add to ${region}`}
          insert={(call) => put(now ? `${now.trimEnd()}\n${call}` : call)}
        />
        {calls && pages > 0 && (
          <>
            {text !== was || dirty ? (
              "Once this is saved, it can be put"
            ) : (
              <Link
                to={`/${site}/roll-out?${query.toString()}`}
                aria-label={`Put it on the pages that exist, into ${region}`}
              >
                Put it
              </Link>
            )}{" "}
            on the {pages} {pages === 1 ? "page" : "pages"} that exist, too.
          </>
        )}
      </span>
    </div>
  );
}
