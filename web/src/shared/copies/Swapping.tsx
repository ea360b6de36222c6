import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import type { Operated, Schemas } from "../../api/client";
import { useBlock, useOverview } from "../../api/queries";
import type { Swap } from "./acts";

interface Props {
  from: string;
  swap: Swap;
  change: (s: Swap) => void;
  operated: Operated | null;
}

/** The block that comes into the place of one, where the values of each field go, and what has
 *  no place there. */
export function Swapping({ from, swap, change, operated }: Props) {
  const { data: overview } = useOverview();
  const answer = operated?.answer === "replaced" ? operated : undefined;
  return (
    <section className="swapping" aria-label="What comes there">
      <TextField
        select
        size="small"
        label="Block to put there"
        value={overview ? swap.to : ""}
        onChange={(e) => change({ to: e.target.value, fields: null })}
      >
        {(overview?.blocks ?? [])
          .filter((b) => b.name !== from)
          .map((b) => (
            <MenuItem key={b.name} value={b.name}>
              {b.title}
            </MenuItem>
          ))}
      </TextField>
      {swap.to !== "" && (
        <FieldPairs
          from={from}
          to={swap.to}
          fields={swap.fields ?? answer?.fields ?? {}}
          change={(fields) => change({ ...swap, fields })}
        />
      )}
      {answer && <NoPlace list={answer.without} />}
    </section>
  );
}

function FieldPairs({
  from,
  to,
  fields,
  change,
}: {
  from: string;
  to: string;
  fields: Record<string, string>;
  change: (fields: Record<string, string>) => void;
}) {
  const { data: a } = useBlock(from);
  const { data: b } = useBlock(to);
  if (!a || !b) return null;
  if (a.fields.length === 0) return <p className="soft">It has no fields.</p>;
  const taken = new Set(Object.values(fields));
  return (
    <div className="field-pairs">
      {a.fields.map((f) => (
        <TextField
          key={f.name}
          select
          size="small"
          label={`${f.label || f.name} becomes`}
          value={fields[f.name] ?? ""}
          onChange={(e) => change({ ...fields, [f.name]: e.target.value })}
          slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
        >
          <MenuItem value="">nothing</MenuItem>
          {b.fields.map((g) => (
            <MenuItem
              key={g.name}
              value={g.name}
              disabled={taken.has(g.name) && fields[f.name] !== g.name}
            >
              {g.label || g.name}
            </MenuItem>
          ))}
        </TextField>
      ))}
    </div>
  );
}

/** The values that a block has no place for. */
export function NoPlace({ list }: { list: Schemas["Mention"][] }) {
  if (list.length === 0) return <p className="soft">Every value has its place there.</p>;
  return (
    <>
      <p className="bad-text">
        {list.length === 1 ? "A value has" : `${list.length} values have`} no place there and{" "}
        {list.length === 1 ? "goes" : "go"}:
      </p>
      <ul className="going" aria-label="What has no place">
        {list.map((m) => (
          <li key={`${m.doc} ${m.address} ${m.field} ${m.text}`}>
            <b>{m.page || m.doc}</b>{" "}
            <span className="soft">{m.field === "inner" ? "what it encloses" : m.field}:</span>{" "}
            <span className="words">{m.text}</span>
          </li>
        ))}
      </ul>
    </>
  );
}
