import Button from "@mui/material/Button";
import FormControlLabel from "@mui/material/FormControlLabel";
import MenuItem from "@mui/material/MenuItem";
import Switch from "@mui/material/Switch";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import type { Explanation, Operation } from "../api/client";
import { useLayouts } from "../api/queries";
import { FieldInput } from "../shared/fields/FieldInput";
import { useChoices } from "../shared/fields/useChoices";
import { Loads } from "./Loads";
import { plain } from "../shared/rules/RuleValues";

interface Props {
  story: Explanation;
  home: boolean;
  dirty: boolean;
  set: (keys: string[], value: unknown) => void;
  ask: (verb: string, operation: Operation) => void;
  move: () => void;
  detach: () => void;
}

/** What a page says of itself: title, layout, tags, draft, and the fields of its type. */
export function Settings({ story, home, dirty, set, ask, move, detach }: Props) {
  const [typed, setTyped] = useState<Record<string, string>>({});
  const [wasDirty, setWasDirty] = useState(dirty);
  if (wasDirty !== dirty) {
    setWasDirty(dirty);
    if (!dirty) setTyped({});
  }
  const choices = useChoices();
  const put = (key: string, shown: string, keys: string[], value: unknown) => {
    setTyped((t) => ({ ...t, [key]: shown }));
    set(keys, value);
  };
  return (
    <div className="scroll">
      <div className="fields">
        <TextField
          label="Title"
          value={typed.title ?? story.title}
          onChange={(e) => put("title", e.target.value, ["title"], e.target.value || null)}
        />
        <LayoutChoice story={story} dirty={dirty} ask={ask} />
        <TextField
          label="Tags"
          value={typed.tags ?? story.tags.join(", ")}
          helperText="separated by commas; rules can name pages by them"
          onChange={(e) => {
            const list = e.target.value
              .split(",")
              .map((t) => t.trim())
              .filter(Boolean);
            put("tags", e.target.value, ["tags"], list.length ? list : null);
          }}
        />
        <FormControlLabel
          label="A draft: not published"
          control={
            <Switch
              size="small"
              checked={story.draft}
              onChange={(e) => set(["draft"], e.target.checked || null)}
            />
          }
        />
        {story.fields.map((f) => (
          <div key={f.field.name} className="rule-value">
            <FieldInput
              field={f.field}
              value={typed[`field ${f.field.name}`] ?? f.text}
              choices={choices}
              about={f.set ? "set by this page" : "not set; blocks that take it show their default"}
              change={(v) =>
                put(`field ${f.field.name}`, v, ["fields", f.field.name], plain(f.field, v))
              }
            />
            {f.set && (
              <button
                type="button"
                className="plain toggle"
                aria-label={`Reset ${f.field.label}`}
                onClick={() => put(`field ${f.field.name}`, "", ["fields", f.field.name], null)}
              >
                Reset
              </button>
            )}
          </div>
        ))}
        <div className="page-acts">
          <Button variant="outlined" color="secondary" disabled={dirty || home} onClick={move}>
            Move
          </Button>
          <Duplicate story={story} ask={ask} disabled={dirty} />
          <Button variant="outlined" color="secondary" disabled={dirty} onClick={detach}>
            Detach everything
          </Button>
          <Button
            variant="outlined"
            color="secondary"
            disabled={dirty || home}
            onClick={() => ask("Delete the page", { operation: "delete-page", doc: story.doc })}
          >
            Delete
          </Button>
          {dirty && <span className="soft">Save or discard the edit first.</span>}
        </div>
        <Loads loads={story.loads} />
      </div>
    </div>
  );
}

/** Another layout: what would lose its region, and where it could go. */
function LayoutChoice({
  story,
  dirty,
  ask,
}: {
  story: Explanation;
  dirty: boolean;
  ask: (verb: string, operation: Operation) => void;
}) {
  const layouts = useLayouts();
  const [to, setTo] = useState(story.layout);
  const [into, setInto] = useState<Record<string, string>>({});
  const next = layouts.data?.find((l) => l.name === to);
  const filled = [...new Set(story.parts.map((p) => p.region))];
  const lost = next ? filled.filter((r) => !next.regions.some((n) => n.name === r)) : [];
  const put = (layout: string, regions: Record<string, string>) => {
    setTo(layout);
    setInto(regions);
    if (layout !== story.layout)
      ask("Change the layout", { operation: "set-layout", doc: story.doc, layout, regions });
  };
  return (
    <div style={{ display: "grid", gap: 10 }}>
      <TextField
        select
        label="Layout"
        value={layouts.data ? to : ""}
        disabled={dirty}
        onChange={(e) => put(e.target.value, {})}
      >
        {layouts.data?.map((l) => (
          <MenuItem key={l.name} value={l.name}>
            {l.title}
          </MenuItem>
        ))}
      </TextField>
      {lost.map((r) => (
        <TextField
          key={r}
          select
          label={`What stands in ${r}, which ${next?.title ?? to} lacks`}
          value={into[r] ?? ""}
          onChange={(e) => put(to, { ...into, [r]: e.target.value })}
          slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
        >
          <MenuItem value="">stays in the text, unseen until a layout has {r} again</MenuItem>
          {next?.regions.map((n) => (
            <MenuItem key={n.name} value={n.name}>
              goes into {n.name}
            </MenuItem>
          ))}
        </TextField>
      ))}
    </div>
  );
}

function Duplicate({
  story,
  ask,
  disabled,
}: {
  story: Explanation;
  ask: (verb: string, operation: Operation) => void;
  disabled: boolean;
}) {
  const to =
    story.doc === "pages/index.html"
      ? "pages/home-2.html"
      : story.doc.replace(/(\/index)?\.html$/, "-2.html");
  return (
    <Button
      variant="outlined"
      color="secondary"
      disabled={disabled}
      onClick={() =>
        ask("Duplicate it", {
          operation: "duplicate-page",
          doc: story.doc,
          to,
          title: `${story.title} 2`,
        })
      }
    >
      Duplicate
    </Button>
  );
}
