import Radio from "@mui/material/Radio";
import { lazy, Suspense, useEffect } from "react";
import type { Schemas } from "../../api/client";
import { useCopyTexts } from "../../api/copies";
import { Waiting } from "../Waiting";

const Diff = lazy(() => import("../editor/Diff"));

export type Choice = Schemas["Choice"];

/** What was settled of a merge, in the order of its conflicts; what is not yet settled is
 *  undefined. seen names the merge that was looked at. */
export interface Settled {
  choices: (Choice | undefined)[];
  seen: string;
}

type Piece = Schemas["MergedPiece"];

interface Props {
  doc: string;
  address: string;
  settled: Settled | undefined;
  settle: (s: Settled) => void;
}

/** What a copy becomes when it is brought up to its block, and what is to be settled for that:
 *  where the page and the block say different things. */
export function Merging({ doc, address, settled, settle }: Props) {
  const { data, error } = useCopyTexts(doc, address);
  const now = data?.seen;
  const stale = settled !== undefined && now !== undefined && settled.seen !== now;
  useEffect(() => {
    // What was settled of another merge says nothing of this one.
    if (stale) settle({ choices: [], seen: now });
  }, [stale, now, settle]);
  if (error || !data) return <Waiting error={error}>Merging the two…</Waiting>;
  const conflicts = data.merged.filter((p) => p.conflict);
  const choices = stale ? [] : (settled?.choices ?? []);
  const open = conflicts.filter((_, i) => !choices[i]).length;
  const put = (i: number, choice: Choice) =>
    settle({ choices: conflicts.map((_, j) => (j === i ? choice : choices[j])), seen: data.seen });
  return (
    <section className="copy-beside" aria-label="What the copy becomes">
      {conflicts.length > 0 && (
        <p className="bar" role="status">
          {open === 0
            ? "Everything is settled."
            : `${open} of ${conflicts.length} ${conflicts.length === 1 ? "place is" : "places are"} to be settled: this page and the block say different things there.`}
        </p>
      )}
      {conflicts.map((p, i) => (
        <Conflict key={i} number={i + 1} piece={p} choice={choices[i]} choose={(c) => put(i, c)} />
      ))}
      {open === 0 && data.merged.length > 0 && (
        <section>
          <h3>The copy, and what it becomes</h3>
          <Suspense fallback={<p className="soft">Comparing…</p>}>
            <Diff
              before={data.text}
              after={resolved(data.merged, choices)}
              label="The copy, and what it becomes"
            />
          </Suspense>
        </section>
      )}
    </section>
  );
}

function Conflict({
  number,
  piece: p,
  choice,
  choose,
}: {
  number: number;
  piece: Piece;
  choice: Choice | undefined;
  choose: (c: Choice) => void;
}) {
  const own = choice?.take === "text";
  const sides = [
    ["copy", "This page's", p.copy],
    ["block", "The block's", p.block],
    ["both", "Both, this page's first", p.copy + p.block],
  ] as const;
  return (
    <fieldset className="settle">
      <legend>
        Place {number}
        {p.base !== "" && (
          <span className="soft">
            {" "}
            It was <code>{p.base}</code> when it was when detached.
          </span>
        )}
      </legend>
      {sides.map(([take, title, text]) => (
        <label key={take}>
          <Radio
            size="small"
            className="row-box"
            name={`settle-${number}`}
            checked={choice?.take === take}
            onChange={() => choose({ take })}
          />
          <span>{title}</span>
          <code>{text === "" ? <i>nothing</i> : text}</code>
        </label>
      ))}
      <label>
        <Radio
          size="small"
          className="row-box"
          name={`settle-${number}`}
          checked={own}
          onChange={() => choose({ take: "text", text: p.copy })}
        />
        <span>Other words</span>
        {own && (
          <textarea
            aria-label={`Other words for place ${number}`}
            rows={Math.min(8, (choice.text ?? "").split("\n").length + 1)}
            value={choice.text ?? ""}
            onChange={(e) => choose({ take: "text", text: e.target.value })}
          />
        )}
      </label>
    </fieldset>
  );
}

/** The merged text with what was settled in the places of its conflicts. */
export function resolved(pieces: Piece[], choices: (Choice | undefined)[]): string {
  let at = 0;
  return pieces
    .map((p) => {
      if (!p.conflict) return p.text;
      const c = choices[at++];
      switch (c?.take) {
        case "copy":
          return p.copy;
        case "block":
          return p.block;
        case "both":
          return p.copy + p.block;
        case "text":
          return c.text ?? "";
        case undefined:
          return p.base;
      }
    })
    .join("");
}
