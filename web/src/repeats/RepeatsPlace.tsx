import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import { useCallback, useMemo, useState } from "react";
import { Link, useSearchParams } from "react-router";
import type { Operated, Operation, Overview } from "../api/client";
import { useOverview, useSite } from "../api/queries";
import { useRepeat, useRepeats, type Repeat } from "../api/repeats";
import { Halves } from "../shared/Halves";
import { tellSaved } from "../shared/notices";
import { Say, Sentence } from "../shared/Say";
import { useLiveOperation } from "../shared/useOperation";
import { Waiting } from "../shared/Waiting";
import { useWallSubject, useWould, type WallSubject } from "../shared/wall/subject";
import { PieceList } from "./PieceList";
import { PieceSheet } from "./PieceSheet";
import { counted, makeBlocks, makeLayout, statesOfPiece, undecided, type Decided } from "./pieces";

/** The place where what is repeated on pages is found and becomes blocks. */
export function RepeatsPlace() {
  const { data: overview } = useOverview();
  const { data, error } = useRepeats();
  if (!overview) return null;
  if (!data)
    return (
      <>
        <div className="subject">
          <h1>Repeated pieces</h1>
        </div>
        <Waiting error={error}>Comparing all pages…</Waiting>
      </>
    );
  return data.pieces.length === 0 ? (
    <div className="empty">
      <h1>Repeated pieces</h1>
      <p>
        {counted(data.looked, "page")} compared. No piece of their own text stands on three or more.
      </p>
    </div>
  ) : (
    <Sheet pieces={data.pieces} looked={data.looked} overview={overview} />
  );
}

function Sheet({
  pieces,
  looked,
  overview,
}: {
  pieces: Repeat[];
  looked: number;
  overview: Overview;
}) {
  const site = useSite();
  const [params, setParams] = useSearchParams();
  const asked = params.get("piece");
  const shown = pieces.find((p) => p.id === asked) ?? pieces[0];
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [decided, setDecided] = useState<Readonly<Record<string, Decided>>>({});
  const detail = useRepeat(shown?.id ?? null);
  const piece = detail.data?.piece.id === shown?.id ? detail.data : undefined;
  // Without a choice it is the piece that is open.
  const wanted = useMemo(
    () => (chosen.size > 0 || !shown ? chosen : new Set([shown.id])),
    [chosen, shown],
  );
  const [framing, setFraming] = useState(false);
  const frame = framing ? makeLayout(pieces, chosen) : null;
  const operation: Operation | null = frame ?? makeBlocks(pieces, wanted, decided);
  const done = useCallback((title: string) => {
    tellSaved(title);
    setChosen(new Set());
    setFraming(false);
    setDecided({});
  }, []);
  const live = useLiveOperation(operation, done);
  const idle = useMemo<WallSubject>(
    () => ({
      question: "repeats",
      about: shown ? `Where does ${shown.title} stand?` : "",
      states: piece ? statesOfPiece(overview.pages, piece) : overview.pages.map(() => "none"),
      against: "live",
    }),
    [shown, piece, overview.pages],
  );
  // While one looks at a piece the wall says where it stands; of several, what would change.
  const would = useWould(live.operated?.proposal ?? null, idle);
  useWallSubject(chosen.size > 0 || live.operated?.proposal.impact?.total === 0 ? would : idle);
  const choose = (id: string, on: boolean) =>
    setChosen((old) => {
      const out = new Set(old);
      if (on) out.add(id);
      else out.delete(id);
      return out;
    });
  const problem = live.error || live.operated?.proposal.problems[0]?.message;
  return (
    <>
      <div className="subject">
        <h1>Repeated pieces</h1>
        <span className="soft">of {counted(looked, "page")}, those first that save most</span>
      </div>
      <form aria-label="Make blocks" className="repeats" {...live.form()}>
        <Say
          tone={problem ? "bad" : live.operated ? "would" : "quiet"}
          actions={
            <>
              {chosen.size === 2 && (
                <FormControlLabel
                  control={
                    <Checkbox
                      size="small"
                      checked={framing}
                      onChange={(e) => setFraming(e.target.checked)}
                    />
                  }
                  label="As a layout"
                />
              )}
              <Button type="submit" variant="contained" disabled={!live.savable}>
                {frame
                  ? "Make a layout"
                  : wanted.size > 1
                    ? `Make ${wanted.size} blocks`
                    : "Make it a block"}
              </Button>
            </>
          }
        >
          {problem ? (
            <span className="bad-text">{problem}</span>
          ) : live.operated?.proposal.impact ? (
            <>
              <Taken operated={live.operated} layout={frame !== null} />{" "}
              <Sentence text={live.operated.proposal.impact.sentence} />
            </>
          ) : (
            <span className="soft">Rendering every page before and after…</span>
          )}
        </Say>
        <Halves place="repeats" usual={36}>
          <PieceList
            pieces={pieces}
            shown={shown?.id ?? ""}
            show={(id) =>
              setParams((p) => {
                p.set("piece", id);
                return p;
              })
            }
            chosen={chosen}
            choose={choose}
          />
          {shown && piece ? (
            <PieceSheet
              key={shown.id}
              piece={piece}
              overview={overview}
              decided={decided[shown.id] ?? undecided}
              decide={(d) => setDecided((all) => ({ ...all, [shown.id]: d }))}
              made={documentOf(live.operated, shown.id)}
            />
          ) : (
            <div className="panel">
              <Waiting error={detail.error}>Reading its values…</Waiting>
            </div>
          )}
        </Halves>
      </form>
      <p className="soft repeats-more">
        Pages keep every byte. <Link to={`/${site}/pages`}>Look at the pages</Link>
      </p>
    </>
  );
}

/** The document of the block that is made of a piece. */
function documentOf(operated: Operated | null, piece: string): string {
  if (operated?.answer !== "made") return "";
  const block = operated.made.find((m) => m.id === piece)?.block;
  return operated.change_set.changes.find((c) => c.path === `blocks/${block}.html`)?.text ?? "";
}

/** How many places become calls, and how many keep their own markup. */
function Taken({ operated, layout }: { operated: Operated; layout: boolean }) {
  if (operated.answer !== "made") return null;
  const places = operated.made.reduce((n, m) => n + m.places, 0);
  const left = operated.made.reduce((n, m) => n + m.left.length, 0);
  const kept =
    left > 0 &&
    `, ${left.toLocaleString("en")} ${left === 1 ? "keeps its" : "keep their"} own markup`;
  if (layout)
    return (
      <span>
        {counted(places, "page")} {places === 1 ? "becomes" : "become"} content within a layout
        {kept}.
      </span>
    );
  const blocks = operated.made.filter((m) => m.places > 0).length;
  return (
    <span>
      {counted(places, "place")} {places === 1 ? "calls" : "call"}{" "}
      {blocks === 1 ? "the new block" : counted(blocks, "new block")}
      {kept}.
    </span>
  );
}
