import Button from "@mui/material/Button";
import { useCallback, useDeferredValue, useMemo, useState } from "react";
import { useSearchParams } from "react-router";
import type { Operation, Overview } from "../api/client";
import { useOverview } from "../api/queries";
import { useWords, type Words, type WordsFound } from "../api/words";
import { tellSaved } from "../shared/notices";
import { Say, Sentence } from "../shared/Say";
import type { State } from "../shared/states";
import { takeKeys } from "../shared/typedAhead";
import { useLiveOperation } from "../shared/useOperation";
import { useWallSubject, useWould, type WallSubject } from "../shared/wall/subject";
import { leftOut, type DocumentClass } from "./spots";
import { Spots } from "./Spots";
import { WordsForm } from "./WordsForm";

/** The place where words are found wherever the site says them, and others put there. */
export function WordsPlace() {
  const { data } = useOverview();
  return data ? <Sheet overview={data} /> : null;
}

const nothing: WordsFound = { total: 0, seen: "", classes: [], spots: [] };

function Sheet({ overview }: { overview: Overview }) {
  const [params] = useSearchParams();
  const [words, setWords] = useState<Words>(() => ({ text: params.get("text") ?? takeKeys() }));
  // What is to stand there; null until somebody says so.
  const [replacement, setReplacement] = useState<string | null>(null);
  const [without, setWithout] = useState<ReadonlySet<string>>(new Set());
  const asked = useDeferredValue(words);
  const answer = useWords(asked, replacement ?? "");
  const found = asked.text.trim() && !answer.error ? (answer.data ?? nothing) : nothing;
  const left = useMemo(() => leftOut(found.spots, without), [found, without]);
  const chosen = found.total - left.length;
  const ready = replacement !== null && chosen > 0 && !answer.isPlaceholderData;
  const operation: Operation | null = ready
    ? {
        operation: "replace-words",
        words: asked,
        with: replacement,
        ...(left.length > 0 && { without: left }),
        seen: found.seen,
      }
    : null;
  const done = useCallback((title: string) => {
    tellSaved(title);
    setWithout(new Set());
  }, []);
  const live = useLiveOperation(operation, done);
  const idle = useMemo<WallSubject>(() => {
    const says = new Set(found.spots.map((s) => s.doc));
    return {
      question: "says",
      about: asked.text.trim()
        ? `Which pages say “${asked.text}” themselves?`
        : "Type what to look for",
      states: overview.pages.map((p): State => (says.has(p.doc) ? "linked" : "none")),
      against: "live",
    };
  }, [found, asked.text, overview.pages]);
  useWallSubject(useWould(live.operated?.proposal ?? null, idle));
  const problem =
    (asked.text.trim() && answer.error?.message) ||
    live.error ||
    live.operated?.proposal.problems[0]?.message;
  const choose = useCallback(
    (names: string[], on: boolean) =>
      setWithout((old) => {
        const out = new Set(old);
        for (const n of names)
          if (on) out.delete(n);
          else out.add(n);
        return out;
      }),
    [],
  );
  const onlyIn = (classes: DocumentClass[]) => setWords((w) => ({ ...w, in: classes }));
  return (
    <>
      <div className="subject">
        <h1>Find and replace</h1>
        <span className="soft">in all of the site</span>
      </div>
      <form aria-label="Find and replace" {...live.form()}>
        <WordsForm
          words={words}
          set={setWords}
          replacement={replacement}
          replace={setReplacement}
          found={found}
          onlyIn={onlyIn}
        />
        <Say
          tone={problem ? "bad" : live.operated ? "would" : "quiet"}
          actions={
            <Button
              type="submit"
              variant="contained"
              disabled={!live.savable || !live.operated?.change_set.changes.length}
            >
              Replace {chosen > 0 ? chosen.toLocaleString("en") : ""}
            </Button>
          }
        >
          {problem ? (
            <span className="bad-text">{problem}</span>
          ) : live.operated?.proposal.impact ? (
            <>
              {counted(chosen, found)} <Sentence text={live.operated.proposal.impact.sentence} />
            </>
          ) : (
            <span className="soft">{told(words, found, ready, answer.isFetching)}</span>
          )}
        </Say>
      </form>
      <div className="panel words-found">
        <Spots
          found={found}
          overview={overview}
          without={without}
          choose={choose}
          replaced={replacement !== null}
        />
      </div>
    </>
  );
}

function counted(n: number, found: WordsFound): string {
  const of = n === found.total ? "" : ` of ${found.total.toLocaleString("en")}`;
  return `${n.toLocaleString("en")}${of} ${found.total === 1 ? "spot" : "spots"}.`;
}

/** What is to be done next, or what was found. */
function told(words: Words, found: WordsFound, ready: boolean, looking: boolean): string {
  if (!words.text.trim())
    return "Texts, attributes and values are looked through as they are read. Each spot is listed with its page or block before anything is saved.";
  if (ready) return "Working out what would change…";
  if (found.total === 0) return looking ? "Looking…" : "Nothing in the site says that.";
  return `${counted(found.total, found)} Say what is to stand there, or leave spots out in the list.`;
}
