import Checkbox from "@mui/material/Checkbox";
import { useMemo } from "react";
import { Link } from "react-router";
import type { Overview } from "../api/client";
import { useSite } from "../api/queries";
import type { WordsFound, WordsSpot } from "../api/words";
import { placeOf } from "../shared/placeOf";
import { Rows } from "../shared/Rows";
import { belongs, linesOf, nameOfSpot, type Line } from "./spots";

interface Props {
  found: WordsFound;
  overview: Overview;
  without: ReadonlySet<string>;
  choose: (names: string[], on: boolean) => void;
  replaced: boolean;
}

/** Every spot with its page or block, and whether it is among those to be replaced. */
export function Spots({ found, overview, without, choose, replaced }: Props) {
  const site = useSite();
  const lines = useMemo(() => linesOf(found.spots), [found.spots]);
  if (found.total === 0) return <p className="empty">Spots are listed here.</p>;
  return (
    <>
      {found.spots.length < found.total && (
        <p className="bar soft">
          The first {found.spots.length.toLocaleString("en")} of {found.total.toLocaleString("en")}{" "}
          are listed. All are replaced that are not left out.
        </p>
      )}
      <Rows
        label="Spots"
        height={30}
        items={lines}
        keyOf={(l) => ("spots" in l ? l.doc : nameOfSpot(l))}
        row={(l: Line) =>
          "spots" in l ? (
            <Document
              line={l}
              known={placeOf(site, l.doc, overview)}
              without={without}
              choose={choose}
            />
          ) : (
            <Spot spot={l} on={!without.has(nameOfSpot(l))} choose={choose} replaced={replaced} />
          )
        }
      />
    </>
  );
}

function Document({
  line,
  known,
  without,
  choose,
}: {
  line: { doc: string; spots: WordsSpot[] };
  known: { title: string; to: string };
  without: ReadonlySet<string>;
  choose: Props["choose"];
}) {
  const names = line.spots.map(nameOfSpot);
  const on = names.filter((n) => !without.has(n)).length;
  return (
    <span className="spot-doc">
      <Checkbox
        size="small"
        checked={on > 0}
        indeterminate={on > 0 && on < names.length}
        onChange={() => choose(names, on < names.length)}
        slotProps={{ input: { "aria-label": `All of ${known.title}` } }}
      />
      <Link to={known.to} dir="auto">
        <b>{known.title}</b>
      </Link>
      <span className="soft mono">{line.doc}</span>
      <span className="soft right">{on === names.length ? on : `${on} of ${names.length}`}</span>
    </span>
  );
}

function Spot({
  spot: s,
  on,
  choose,
  replaced,
}: {
  spot: WordsSpot;
  on: boolean;
  choose: Props["choose"];
  replaced: boolean;
}) {
  return (
    <label className="spot">
      <Checkbox
        size="small"
        checked={on}
        onChange={(e) => choose([nameOfSpot(s)], e.target.checked)}
      />
      <span className="spot-text" dir="auto">
        {shown(s.before)}
        {replaced && on ? (
          <>
            <del>{s.match}</del>
            <ins>{s.with}</ins>
          </>
        ) : (
          <mark>{s.match}</mark>
        )}
        {shown(s.after)}
      </span>
      <span className="soft spot-of" title={s.of}>
        {belongs(s)}
      </span>
      <span className="soft mono">
        {s.line}:{s.column}
      </span>
    </label>
  );
}

/** Text on one line. */
const shown = (text: string) => text.replace(/\s+/g, " ");
