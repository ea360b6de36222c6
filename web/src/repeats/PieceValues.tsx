import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import Skeleton from "@mui/material/Skeleton";
import TextField from "@mui/material/TextField";
import { useVirtualizer } from "@tanstack/react-virtual";
import { useMemo, useRef } from "react";
import { Link } from "react-router";
import type { Overview } from "../api/client";
import { useSite } from "../api/queries";
import { usePlacesOf, type RepeatField, type RepeatedPiece } from "../api/repeats";
import { cellText, namesOf, type Decided } from "./pieces";
import { Choice } from "../shared/Choice";

interface Props {
  piece: RepeatedPiece;
  overview: Overview;
  decided: Decided;
  decide: (d: Decided) => void;
}

const rowHeight = 30;

/** How many places are listed: as many as anybody goes through. */
const mostListed = 20_000;

/** What the places of a piece say: fields across, which can be called otherwise, and pages down, of which
 *  some can be left out. */
export function PieceValues({ piece, overview, decided, decide }: Props) {
  const site = useSite();
  const box = useRef<HTMLDivElement>(null);
  const titles = useMemo(
    () => new Map(overview.pages.map((p) => [p.doc, p.title])),
    [overview.pages],
  );
  const leave = useMemo(() => new Set(decided.leave), [decided.leave]);
  const names = namesOf(piece.piece.fields, decided);
  const columns = piece.piece.fields.flatMap((f, i) => (f.spacing ? [] : [{ ...f, at: i }]));
  // Odd places come first; of thousands of others those are asked for that are in sight.
  const odd = piece.odd.length;
  const list = useVirtualizer({
    count: odd + Math.min(piece.piece.places, mostListed),
    getScrollElement: () => box.current,
    estimateSize: () => rowHeight,
    overscan: 12,
  });
  const drawn = list.getVirtualItems();
  const above = drawn[0]?.start ?? 0;
  const below = list.getTotalSize() - (drawn.at(-1)?.end ?? 0);
  const placeAt = usePlacesOf(
    piece.piece.id,
    (drawn[0]?.index ?? 0) - odd,
    (drawn.at(-1)?.index ?? 0) - odd,
  );
  const put = (doc: string, on: boolean) =>
    decide({
      ...decided,
      leave: on ? decided.leave.filter((d) => d !== doc) : [...decided.leave, doc],
    });
  return (
    <div className="scroll" ref={box} tabIndex={0} role="region" aria-label="Values of the places">
      <table className="rows piece-values">
        <thead>
          <tr>
            <th scope="col">Page</th>
            {columns.map((f) => (
              <FieldHead
                key={f.name}
                field={f}
                called={names.get(decided.rename[f.name] || f.name) ?? 0}
                decided={decided}
                decide={decide}
              />
            ))}
            {columns.length === 0 && (
              <th scope="col" className="soft">
                The same everywhere
              </th>
            )}
          </tr>
        </thead>
        <tbody>
          {above > 0 && (
            <tr aria-hidden>
              <td style={{ height: above }} />
            </tr>
          )}
          {drawn.map((v) => {
            const isOdd = v.index < odd;
            const r = isOdd ? piece.odd[v.index] : placeAt(v.index - odd);
            if (!r)
              return (
                <tr key={v.key} style={{ height: rowHeight }}>
                  <td colSpan={columns.length + 2}>
                    <Skeleton />
                  </td>
                </tr>
              );
            const title = titles.get(r.doc) ?? r.doc;
            return (
              <tr key={v.key} style={{ height: rowHeight }} className={isOdd ? "odd-place" : ""}>
                <th scope="row">
                  <span className="piece-page">
                    <Checkbox
                      size="small"
                      disabled={isOdd}
                      checked={!isOdd && !leave.has(r.doc)}
                      onChange={(e) => put(r.doc, e.target.checked)}
                      slotProps={{ input: { "aria-label": `Take it on ${title}` } }}
                    />
                    <Link to={`/${site}/pages?doc=${encodeURIComponent(r.doc)}`} dir="auto">
                      {title}
                    </Link>
                  </span>
                </th>
                {isOdd ? (
                  <td colSpan={Math.max(columns.length, 1)} className="soft">
                    {r.differs ? <Differs {...r.differs} /> : "differs"}: no field holds that, and
                    it keeps its own markup
                  </td>
                ) : (
                  columns.map((f) => {
                    const value = r.values?.[f.at];
                    return (
                      <td
                        key={f.name}
                        className={decided.drop.includes(f.name) ? "mono dropped" : "mono"}
                        title={value ?? undefined}
                        dir="auto"
                      >
                        {value == null ? <span className="soft">none</span> : cellText(value)}
                      </td>
                    );
                  })
                )}
              </tr>
            );
          })}
          {below > 0 && (
            <tr aria-hidden>
              <td style={{ height: below }} />
            </tr>
          )}
        </tbody>
      </table>
      {piece.piece.places > mostListed && (
        <p className="soft piece-more">
          The first {mostListed.toLocaleString("en")} of {piece.piece.places.toLocaleString("en")}{" "}
          places are listed; all become calls.
        </p>
      )}
    </div>
  );
}

/** Where an odd place begins to be something else. */
function Differs({ line, text }: { line: number; text: string }) {
  if (text === "") return <>ends in line {line}, where others go on</>;
  return (
    <>
      differs from line {line} on, <code title={text}>{text}</code>
    </>
  );
}

/** The head of a column: what the field is called, of which type it is, and whether it is one. */
function FieldHead({
  field,
  called,
  decided,
  decide,
}: {
  field: RepeatField;
  called: number;
  decided: Decided;
  decide: (d: Decided) => void;
}) {
  const { name } = field;
  const dropped = decided.drop.includes(name);
  return (
    <th scope="col">
      <TextField
        value={decided.rename[name] ?? name}
        disabled={dropped}
        onChange={(e) =>
          decide({ ...decided, rename: { ...decided.rename, [name]: e.target.value } })
        }
        slotProps={{ htmlInput: { "aria-label": `Name of the field ${name}` } }}
      />
      <span className="field-head">
        {field.types.length > 1 && !dropped ? (
          <Choice
            label={`Type of the field ${name}`}
            value={decided.types[name] ?? field.type}
            choose={(type) => decide({ ...decided, types: { ...decided.types, [name]: type } })}
            options={field.types.map((t) => [t, t] as const)}
          />
        ) : (
          <span className="soft">
            {dropped
              ? "no field"
              : field.fields
                ? `list of ${field.fields.map((f) => f.name).join(", ")}`
                : field.type}
          </span>
        )}
        <Button
          size="small"
          aria-label={dropped ? `Make ${name} a field again` : `Drop the field ${name}`}
          onClick={() =>
            decide({
              ...decided,
              drop: dropped ? decided.drop.filter((d) => d !== name) : [...decided.drop, name],
            })
          }
        >
          {dropped ? "Field again" : "Drop"}
        </Button>
      </span>
      <span className="soft">
        {dropped
          ? "what most say stands there"
          : called > 1
            ? `one field with ${called - 1 === 1 ? "the other" : "the others"} of that name`
            : `${field.values} ${field.values === 1 ? "value" : "values"}${field.optional ? ", some have none" : ""}`}
      </span>
    </th>
  );
}
