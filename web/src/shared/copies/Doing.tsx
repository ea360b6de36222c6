import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import Radio from "@mui/material/Radio";
import RadioGroup from "@mui/material/RadioGroup";
import { useEffect, useRef, useState } from "react";
import type { Operated, Schemas } from "../../api/client";
import { Sentence } from "../Say";
import { spotKey, verbs, type Act, type Rest, type Swap } from "./acts";
import { CopyBeside } from "./CopyBeside";
import { Merging, type Settled } from "./Merging";
import { Swapping } from "./Swapping";
import type { Titled } from "./useActing";

type Spot = Schemas["Spot"];

interface Props {
  act: Act;
  spots: Titled[];
  live: { operated: Operated | null; error: string; savable: boolean; carryOut: () => void };
  /** So many pages follow the block beside those, and whether it stands elsewhere on those. */
  others?: { pages: number; beside: boolean };
  filled: boolean;
  fill: (filled: boolean) => void;
  /** In the block in whose text the call stands, for all its pages. */
  inBlock: boolean;
  setInBlock: (inBlock: boolean) => void;
  settled: Record<string, Settled>;
  settle: (key: string, s: Settled) => void;
  swap: Swap;
  setSwap: (s: Swap) => void;
  rest: Rest;
  setRest: (r: Rest) => void;
  cancel: () => void;
}

/** What is about to be done to some spots: what it means, what it takes with it, what is to be
 *  settled, and the button that does it. The words are the same wherever one does it. */
export function Doing(props: Props) {
  const { act, spots, live, cancel } = props;
  const only = spots.length === 1 ? spots[0] : undefined;
  const nothing = live.operated?.change_set.changes.length === 0;
  // What was worked out last stays until the next is, with what one chooses by it.
  const now = live.operated?.answer === "linked" ? live.operated.linked : undefined;
  const [linked, setLinked] = useState(now);
  if (now && now !== linked) setLinked(now);
  const soon = useRef(false); // Enter was pressed before it was worked out
  const { savable, carryOut } = live;
  const sound = live.operated?.proposal.impact?.breaks.length === 0 && !nothing;
  useEffect(() => {
    if (!soon.current || !savable || !sound) return;
    soon.current = false;
    carryOut();
  }, [savable, sound, carryOut]);
  return (
    <div
      className="doing"
      tabIndex={-1}
      onKeyDown={(e) => {
        if (e.target !== e.currentTarget) return;
        if (e.key === "Escape") cancel();
        if (e.key !== "Enter") return;
        if (savable && !nothing) carryOut();
        else soon.current = true;
      }}
    >
      <div className="step">
        <div>
          <div role="status">
            {live.error ? <span className="bad-text">{live.error}</span> : <Meaning {...props} />}
          </div>
          <span className="end">
            <Button variant="outlined" color="secondary" onClick={cancel}>
              Leave it
            </Button>
            {live.operated?.proposal.impact && !nothing && (
              <Button variant="contained" disabled={!live.savable} onClick={live.carryOut}>
                {verbs[act](done(live.operated, spots.length))}
              </Button>
            )}
          </span>
        </div>
      </div>
      {act === "detach" && only?.via && /^(blocks|menus)\//.test(only.via) && (
        <RadioGroup
          row
          className="filled-in"
          aria-label="Where it is detached"
          value={props.inBlock ? "block" : "page"}
          onChange={(e) => props.setInBlock(e.target.value === "block")}
        >
          <FormControlLabel
            value="page"
            control={<Radio size="small" />}
            label="For this page alone"
          />
          <FormControlLabel
            value="block"
            control={<Radio size="small" />}
            label={`In ${only.via.replace(/^\w+\/(.*)\.\w+$/, "$1")}, for all its pages`}
          />
        </RadioGroup>
      )}
      {act === "detach" && !props.inBlock && (
        <FormControlLabel
          className="filled-in"
          control={
            <Checkbox
              size="small"
              checked={props.filled}
              onChange={(e) => props.fill(e.target.checked)}
            />
          }
          label="Detach the blocks inside as well, so that nothing in it follows any block"
        />
      )}
      {act === "replace" && spots[0] && (
        <Swapping
          from={spots[0].of}
          swap={props.swap}
          change={props.setSwap}
          operated={live.operated}
        />
      )}
      {act === "link" && linked && <Resting {...props} linked={linked} />}
      {act === "link" && !only && linked && <Going linked={linked} spots={spots} />}
      {act === "link" && only && (
        <CopyBeside doc={only.doc} address={only.address} linking={linked?.[0]} />
      )}
      {act === "update" && <Settling {...props} />}
    </div>
  );
}

/** How many of so many are done something to. */
function done(o: Operated, n: number): number {
  if (o.answer === "linked") return n - o.linked.filter((k) => k.left).length;
  return o.answer === "updated" ? n - o.left.length : n;
}

function Meaning({ act, spots, live, others, swap, inBlock }: Props) {
  const o = live.operated;
  if (act === "replace" && !swap.to) return "Choose the block to put there.";
  if (!o) return "Working out what that changes…";
  const im = o.proposal.impact;
  if (!im) return <span className="bad-text">{o.proposal.problems[0]?.message}</span>;
  const pages = new Set(spots.map((s) => s.doc)).size;
  switch (act) {
    case "detach":
      return (
        <>
          <b>{im.counts.changes === 0 ? "No byte of any page changes." : im.sentence}</b>{" "}
          {inBlock
            ? "Every page that shows it there keeps"
            : pages === 1
              ? "This page keeps"
              : `${pages} pages keep`}{" "}
          {spots.length === 1 ? "a copy" : `${spots.length} copies`}, and later edits of the block
          leave {spots.length === 1 ? "it" : "them"} alone.
          {others &&
            !inBlock &&
            ` ${others.pages} other ${others.pages === 1 ? "page follows" : "pages follow"} the block as before${
              others.beside
                ? `, and so does what stands elsewhere on ${pages === 1 ? "this one" : "those"}`
                : ""
            }.`}
        </>
      );
    case "link": {
      const linked = done(o, spots.length);
      if (linked === 0) return "Nothing is linked: something would go with it.";
      return (
        <>
          <Sentence text={im.sentence} />{" "}
          {linked < spots.length
            ? `${linked} of ${spots.length} follow the block again from then on.`
            : `${pages === 1 ? "This page follows" : `These ${pages} pages follow`} the block again from then on.`}
        </>
      );
    }
    case "replace": {
      const gone = o.answer === "replaced" ? o.without.length : 0;
      return (
        <>
          <Sentence text={im.sentence} />
          {gone > 0 && (
            <b className="bad-text">
              {" "}
              {gone === 1 ? "A value has" : `${gone} values have`} no place there.
            </b>
          )}
        </>
      );
    }
    case "update": {
      const left = o.answer === "updated" ? o.left.length : 0;
      return (
        <>
          {o.change_set.changes.length > 0 && <Sentence text={im.sentence} />}{" "}
          {left > 0 &&
            (left === spots.length
              ? "Something is to be settled first."
              : `${left} of ${spots.length} are left as they are.`)}
        </>
      );
    }
  }
}

/** What becomes of what fits no field, where there is such. */
function Resting({ linked, rest, setRest, spots }: Props & { linked: Schemas["LinkedCopy"][] }) {
  const made = linked.flatMap((k) => k.made);
  if (rest === "goes" && linked.every((k) => k.lost.length === 0)) return null;
  const of = [...new Set(spots.map((s) => s.of))].join(", ");
  return (
    <>
      <RadioGroup
        row
        className="filled-in"
        aria-label="What fits no field"
        value={rest}
        onChange={(e) => setRest(e.target.value as Rest)}
      >
        <span className="soft">What fits no field</span>
        <FormControlLabel value="goes" control={<Radio size="small" />} label="goes" />
        <FormControlLabel
          value="stays"
          control={<Radio size="small" />}
          label={spots.length === 1 ? "stays: leave the copy" : "stays: leave such copies"}
        />
        <FormControlLabel
          value="fields"
          control={<Radio size="small" />}
          label={`becomes fields of ${of}`}
        />
      </RadioGroup>
      {rest === "fields" && (
        <p className="soft filled-in">
          {made.length > 0
            ? `${of} gets ${made.length === 1 ? "a field" : "fields"}: ${made.join(", ")}. Elsewhere it shows what it did.`
            : "Nothing of it can be a field."}
        </p>
      )}
    </>
  );
}

/** What goes with each of several copies, most first. */
function Going({ linked, spots }: { linked: Schemas["LinkedCopy"][]; spots: Titled[] }) {
  const title = (k: Spot) => spots.find((s) => spotKey(s) === spotKey(k))?.title ?? k.doc;
  return (
    <ul className="going" aria-label="What goes">
      {linked.map((k) => (
        <li key={spotKey(k)}>
          <b>{title(k)}</b>{" "}
          {k.fits.length > 0 && (
            <span>
              keeps {k.fits.map((f) => `${f.label}: ${f.words}`).join(", ")} as values of its
              own.{" "}
            </span>
          )}
          {k.left && <b>stays a copy. </b>}
          {k.lost.length === 0 ? (
            <span className="soft">No value of it is lost.</span>
          ) : (
            <>
              <span className="bad-text">
                {k.lost.length === 1 ? "A line" : `${k.lost.length} lines`} written into it{" "}
                {k.left ? "would go" : k.lost.length === 1 ? "goes" : "go"}:
              </span>
              <pre>{k.lost.join("\n")}</pre>
            </>
          )}
        </li>
      ))}
    </ul>
  );
}

/** What is to be settled before copies can be brought up to their block. */
function Settling({ spots, live, settled, settle }: Props) {
  const left = live.operated?.answer === "updated" ? live.operated.left : [];
  const shown = spots.filter(
    (s) =>
      spots.length === 1 ||
      settled[spotKey(s)] ||
      left.some((l) => spotKey(l) === spotKey(s) && l.conflicts > 0),
  );
  return (
    <>
      {left
        .filter((l) => l.why !== "")
        .map((l) => (
          <p key={spotKey(l)} className="soft left-out">
            {l.page} is left as it is: {l.why}.
          </p>
        ))}
      {shown.map((s) => (
        <div key={spotKey(s)}>
          {spots.length > 1 && <h3>{s.title}</h3>}
          <Merging
            doc={s.doc}
            address={s.address}
            settled={settled[spotKey(s)]}
            settle={(one) => settle(spotKey(s), one)}
          />
        </div>
      ))}
    </>
  );
}
