import { TypedField } from "../shared/TypedField";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { Link } from "react-router";
import type { Layout } from "../api/client";
import { useSite } from "../api/queries";
import { Choice } from "../shared/Choice";

interface Props {
  layout: Layout;
  set: (keys: string[], value: unknown) => void;
  edit: (what: { edit: "add" | "drop"; region: string; after?: string }) => void;
  pages: number;
}

/** The regions of a layout: for one thing or many, how wide, and new ones. */
export function Regions({ layout, set, edit, pages }: Props) {
  const site = useSite();
  const [name, setName] = useState("");
  const [after, setAfter] = useState("");
  return (
    <div className="scroll">
      <table className="region-table">
        <thead>
          <tr>
            <th scope="col">Region</th>
            <th scope="col">Holds</th>
            <th scope="col">Width</th>
            <td />
          </tr>
        </thead>
        <tbody>
          {layout.regions.map((r) => (
            <tr key={r.name}>
              <th scope="row">{r.name}</th>
              <td>
                <span role="group" aria-label={`${r.name} holds`}>
                  {(["one", "stack"] as const).map((m) => (
                    <button
                      key={m}
                      type="button"
                      className="plain toggle"
                      aria-pressed={r.mode === m}
                      onClick={() => set(["regions", r.name, "mode"], m)}
                    >
                      {m === "one" ? "one thing" : "all in order"}
                    </button>
                  ))}
                </span>
              </td>
              <td>
                <TypedField
                  type="number"
                  fullWidth={false}
                  placeholder="any"
                  slotProps={{
                    htmlInput: { min: 0, "aria-label": `Width of ${r.name} in pixels` },
                  }}
                  value={r.width ? String(r.width) : ""}
                  change={(v) => set(["regions", r.name, "width"], Number(v) || null)}
                />{" "}
                px
              </td>
              <td>
                <Link to={`/${site}/rules?region=${r.name}`} aria-label={`Who wins in ${r.name}`}>
                  who wins
                </Link>{" "}
                <button
                  type="button"
                  className="plain word"
                  aria-label={`Remove ${r.name}`}
                  onClick={() => edit({ edit: "drop", region: r.name })}
                >
                  Take out
                </button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <form
        className="add-row"
        aria-label="New region"
        onSubmit={(e) => {
          e.preventDefault();
          edit({ edit: "add", region: name.trim(), after });
          setName("");
        }}
      >
        <TextField
          label="New region"
          value={name}
          onChange={(e) => setName(e.target.value)}
          sx={{ width: 110 }}
        />
        <span>
          stands behind{" "}
          <Choice
            label="stands behind"
            value={after}
            choose={setAfter}
            options={[
              ["", "all, at the end of the body"],
              ...layout.regions.map((r): [string, string] => [r.name, r.name]),
            ]}
          />
        </span>
        <Button type="submit" variant="outlined" color="secondary" disabled={!name.trim()}>
          Add
        </Button>
      </form>
      <p className="soft" style={{ padding: "0 14px" }}>
        The width is a hint for whoever fills the region: how wide images need to be there. What{" "}
        {pages === 1 ? "the page" : `${pages} pages`} of this type fill a region with stays in their
        text when it is taken out.
      </p>
    </div>
  );
}
