import Button from "@mui/material/Button";
import { useCallback, useEffect, useMemo, useState } from "react";
import type { Operated, Operation } from "../api/client";
import { subjectOf } from "./wall/subject";
import { waits } from "./pendingSteps";
import { Say, Sentence } from "./Say";
import { tellSaved } from "./notices";
import { useLiveOperation } from "./useOperation";

/** An operation that waits for a yes: what it would do stands in a bar and on the
 *  wall. verb is what the button says. */
export function usePending(after?: (operation: Operation) => void) {
  const [wanted, setWanted] = useState<{ operation: Operation; verb: string } | null>(null);
  const done = useCallback(
    (title: string, operation: Operation) => {
      // What was asked for meanwhile stays.
      setWanted((now) => (now && sameOperation(now.operation, operation) ? null : now));
      tellSaved(title);
      after?.(operation);
    },
    [after],
  );
  const live = useLiveOperation(wanted?.operation ?? null, done);
  const ask = useCallback(
    (verb: string, operation: Operation) => setWanted({ operation, verb }),
    [],
  );
  const cancel = useCallback(() => setWanted(null), []);
  useEffect(() => (wanted ? waits(cancel) : undefined), [wanted, cancel]);
  const subject = useMemo(() => subjectOf(live.operated), [live.operated]);
  const bar = wanted && (
    <Say
      tone={live.error ? "bad" : "would"}
      actions={
        <>
          <Button variant="outlined" color="secondary" onClick={cancel}>
            Leave it
          </Button>
          <Button variant="contained" disabled={!live.savable} onClick={live.carryOut}>
            {wanted.verb}
          </Button>
        </>
      }
    >
      <Answer error={live.error} operated={live.operated} />
    </Say>
  );
  return { wanted: wanted?.operation ?? null, ask, cancel, bar, subject };
}

const sameOperation = (a: Operation, b: Operation) => JSON.stringify(a) === JSON.stringify(b);

/** What an operation would do, in words. */
export function Answer({ error, operated }: { error: string; operated: Operated | null }) {
  const problem = operated?.proposal.problems[0];
  if (error || problem) return <span className="bad-text">{error || problem?.message}</span>;
  return operated?.proposal.impact ? (
    <Sentence text={operated.proposal.impact.sentence} />
  ) : (
    <>Working out what this changes…</>
  );
}
