import Button from "@mui/material/Button";
import FormControlLabel from "@mui/material/FormControlLabel";
import Switch from "@mui/material/Switch";
import { useState } from "react";
import { Link } from "react-router";
import type { Overview, Schemas } from "../api/client";
import { AddField } from "../shared/fields/AddField";
import { Declared, Words } from "../shared/fields/Declared";
import { FieldInput } from "../shared/fields/FieldInput";
import { Picked } from "../shared/fields/Picked";
import { useChoices } from "../shared/fields/useChoices";
import { useDefaults } from "../shared/fields/useDefaults";
import type { useKeyEdits } from "../shared/useTextEdits";

interface Props {
  reading: Schemas["SiteReading"];
  overview: Overview;
  text: string;
  change: (text: string) => void;
  keys: ReturnType<typeof useKeyEdits>;
  /** The value of which it is asked where it stands, and on how many pages that is. */
  asked: string;
  ask: (name: string, label: string) => void;
  pages: number | undefined;
}

/** The values of a site in a form: each is changed where it stands in site.yaml. */
export function SiteValues({ reading, overview, text, change, keys, asked, ask, pages }: Props) {
  const choices = useChoices();
  const { typed, wrong, put } = useDefaults("site.yaml", text, change);
  const where = (name: string, label: string) => (
    <Button
      size="small"
      aria-pressed={asked === name}
      aria-label={`Where ${label} stands`}
      onClick={() => ask(asked === name ? "" : name, label)}
    >
      {asked === name && pages !== undefined
        ? pages === 1
          ? "on 1 page"
          : `on ${pages} pages`
        : "Where it stands"}
    </Button>
  );
  return (
    <div className="fields site-values">
      <div className="site-value">
        <Words label="Name" value={reading.name} set={(v) => keys.set(["name"], v)} />
        {where("name", "the name of the site")}
      </div>
      <div className="site-value">
        <Words
          label="Address it is published at"
          value={reading.base_url}
          set={(v) => keys.set(["base_url"], v)}
        />
        {where("base_url", "the site's address")}
      </div>
      {reading.fields.map((f, i) => (
        <div key={f.name} className="declared">
          <div className="site-value">
            <FieldInput
              field={f}
              value={typed[f.name] ?? f.default_text}
              change={(v) => put(f, v)}
              choices={choices}
              wrong={wrong[f.name] ?? ""}
              about={f.help || `site.${f.name}`}
            />
            {where(f.name, f.label)}
          </div>
          <Declared
            field={f}
            set={keys.set}
            first={i === 0}
            last={i === reading.fields.length - 1}
            move={(by) => keys.setAll([{ keys: ["fields", f.name], value: null, before: i + by }])}
            more={
              <Button
                size="small"
                aria-label={`Remove ${f.name}`}
                onClick={() => keys.set(["fields", f.name], null)}
              >
                Take it out
              </Button>
            }
          />
        </div>
      ))}
      <AddField fields={reading.fields} setAll={keys.setAll} />
      <details className="described">
        <summary>
          How pages are found <span className="soft">home page, addresses, sign-in, history</span>
        </summary>
        <div className="declaration">
          <Home value={reading.home} overview={overview} set={(v) => keys.set(["home"], v)} />
          <FormControlLabel
            label="Pages have the addresses that their files have: /a/b.html, not /a/b/"
            control={
              <Switch
                size="small"
                checked={reading.exact_urls}
                onChange={(e) => keys.set(["exact_urls"], e.target.checked || null)}
              />
            }
          />
          <Words
            label="Edits that can be undone, 20 to 100000"
            value={String(reading.undo)}
            set={(v) => keys.set(v ? ["history", "edits"] : ["history"], v ? Number(v) : null)}
          />
          <p className="soft">
            {reading.sets_off.length === 0
              ? "All sets of shortcodes are switched on."
              : `Switched off: ${reading.sets_off.join(", ")}.`}{" "}
            <Link to={`/${overview.name}/reference`}>Sets</Link> stand in the reference.
          </p>
          <Words
            label="Cookie by which a visitor is known to be signed in"
            value={reading.cookie}
            set={(v) => keys.set(v ? ["audiences", "cookie"] : ["audiences"], v)}
          />
        </div>
      </details>
    </div>
  );
}

/** The home page, chosen among the pages. */
function Home({
  value,
  overview,
  set,
}: {
  value: string;
  overview: Overview;
  set: (v: string) => void;
}) {
  const [typed, setTyped] = useState(value);
  const [was, setWas] = useState(value);
  if (was !== value) {
    setWas(value);
    setTyped(value);
  }
  const there = overview.pages.some((p) => p.path === typed);
  return (
    <Picked
      label="Home page"
      error={!there}
      helperText={there ? "" : "No page has this address."}
      value={typed}
      change={(v) => {
        setTyped(v);
        if (overview.pages.some((p) => p.path === v)) set(v);
      }}
      options={overview.pages.map((p) => ({ value: p.path, title: p.title }))}
    />
  );
}
