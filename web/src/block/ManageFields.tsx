import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useMemo, useState } from "react";
import { useSearchParams } from "react-router";
import {
  fieldTypes,
  withoutOf,
  type Field,
  type FieldType,
  type OperationOf,
  type Schemas,
} from "../api/client";
import { Sentence } from "../shared/Say";
import { useLiveOperation } from "../shared/useOperation";
import { subjectOf, useWallSubject, type WallSubject } from "../shared/wall/subject";

const types = fieldTypes.filter((t) => t !== "list"); // which holds several values
type Way = "rename-field" | "retype-field" | "remove-field";
const ways: Record<Way, string> = {
  "rename-field": "Rename it",
  "retype-field": "Change its type",
  "remove-field": "Remove it",
};
const about: Record<Way, string> = {
  "rename-field": "Arguments, overrides, rules, copies and the markup follow; no page changes.",
  "retype-field": "What can be converted is; what cannot is listed and counts no more.",
  "remove-field":
    "Its default takes its place in the markup. Values that pages have stay, without effect, until they are dropped.",
};

function asked(way: Way, block: string, field: string, to: string): OperationOf<Way> {
  switch (way) {
    case "rename-field":
      return { operation: way, block, field, to };
    case "retype-field":
      return { operation: way, block, field, type: to as FieldType };
    case "remove-field":
      return { operation: way, block, field };
  }
}

/** Another name or type for a field of a block, or none of it any more, with what that
 *  does to every value that a document gives it. */
export function ManageFields({
  block,
  fields,
  idle,
  done,
}: {
  block: string;
  fields: Field[];
  idle: WallSubject;
  done: (title: string) => void;
}) {
  const [params] = useSearchParams();
  const [field, setField] = useState(params.get("field") ?? "");
  const [way, setWay] = useState<Way>("rename-field");
  const [to, setTo] = useState("");
  const chosen = fields.find((f) => f.name === field);
  const ready = chosen && (way === "remove-field" || to !== "");
  const live = useLiveOperation(ready ? asked(way, block, field, to) : null, (title) => {
    setField("");
    setTo("");
    done(title);
  });
  const subject = useMemo(() => subjectOf(live.operated), [live.operated]);
  useWallSubject(subject ?? idle);
  const pick = (next: Way) => {
    setWay(next);
    setTo("");
  };
  if (fields.length === 0) return null;
  return (
    <form className="manage-row" aria-label="A field" {...live.form()}>
      <h2>A field</h2>
      <div style={{ display: "grid", gap: 8 }}>
        <TextField
          select
          label="Field"
          value={field}
          onChange={(e) => {
            setField(e.target.value);
            setTo("");
          }}
        >
          {fields.map((f) => (
            <MenuItem key={f.name} value={f.name}>
              {f.label} ({f.type})
            </MenuItem>
          ))}
        </TextField>
        <TextField
          select
          label="What to do with it"
          value={way}
          onChange={(e) => pick(e.target.value as Way)}
        >
          {Object.entries(ways).map(([k, words]) => (
            <MenuItem key={k} value={k}>
              {words}
            </MenuItem>
          ))}
        </TextField>
        {way === "rename-field" && (
          <TextField
            label="New name of the field"
            value={to}
            onChange={(e) => setTo(e.target.value)}
            error={live.error !== ""}
            slotProps={{ htmlInput: { spellCheck: false } }}
          />
        )}
        {way === "retype-field" && (
          <TextField
            select
            label="New type of the field"
            value={to}
            onChange={(e) => setTo(e.target.value)}
          >
            {types
              .filter((t) => t !== chosen?.type)
              .map((t) => (
                <MenuItem key={t} value={t}>
                  {t}
                </MenuItem>
              ))}
          </TextField>
        )}
      </div>
      <div role="status">
        {live.error ? (
          <span className="bad-text">{live.error}</span>
        ) : live.operated ? (
          <>
            <Sentence
              text={
                live.operated.proposal.impact?.sentence ??
                live.operated.proposal.problems[0]?.message ??
                ""
              }
            />{" "}
            <Without list={withoutOf(live.operated)} removed={way === "remove-field"} />
          </>
        ) : (
          <span className="soft">{about[way]}</span>
        )}
      </div>
      <Button
        type="submit"
        variant="contained"
        color={way === "remove-field" ? "error" : "primary"}
        disabled={!live.savable}
      >
        {way === "remove-field" ? "Remove" : "Change"}
      </Button>
    </form>
  );
}

const shown = 40;

function Without({ list, removed }: { list: Schemas["Mention"][]; removed: boolean }) {
  if (list.length === 0)
    return (
      <span className="soft">
        {removed ? "No document gives it a value." : "Every value fits."}
      </span>
    );
  return (
    <details className="without" open={list.length <= 6}>
      <summary>
        {list.length === 1 ? "1 value" : `${list.length} values`}{" "}
        {removed ? "would stay without effect" : "cannot be converted"}
      </summary>
      <ul>
        {list.slice(0, shown).map((m) => (
          <li key={m.doc + m.address + m.text}>
            <code>{m.page || m.doc}</code> <span className="soft">{m.address}</span> <b>{m.text}</b>
          </li>
        ))}
        {list.length > shown && <li className="soft">and {list.length - shown} more</li>}
      </ul>
    </details>
  );
}
