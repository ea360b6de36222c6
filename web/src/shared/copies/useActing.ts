import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import type { Operation, Schemas } from "../../api/client";
import { waits } from "../pendingSteps";
import { useLiveOperation } from "../useOperation";
import { subjectOf } from "../wall/subject";
import { operationOf, type Act, type Rest, type Swap } from "./acts";
import type { Settled } from "./Merging";

/** A spot with the title of its page and the name of its block. */
export type Titled = Schemas["Spot"] & { title: string; of: string; via?: string };

const noSwap: Swap = { to: "", fields: null };

/** What is wanted: an act, and the spots as they were when it was asked for. */
interface Wanted {
  act: Act;
  spots: Titled[];
}

/** An act on placements and copies that waits for a yes. */
export function useActing(done: (title: string) => void) {
  const [wanted, setWanted] = useState<Wanted | null>(null);
  const [filled, fill] = useState(false);
  const [inBlock, setInBlock] = useState(false);
  const [settled, setSettled] = useState<Record<string, Settled>>({});
  const [swap, setSwap] = useState(noSwap);
  const [rest, setRest] = useState<Rest>("goes");
  const cancel = useCallback(() => {
    setWanted(null);
    setSettled({});
    setSwap(noSwap);
    setInBlock(false);
    setRest("goes");
  }, []);
  const operation = useMemo<Operation | null>(
    () =>
      wanted && wanted.spots.length > 0
        ? operationOf(wanted.act, wanted.spots, { filled, inBlock, settled, swap, rest })
        : null,
    [wanted, filled, inBlock, settled, swap, rest],
  );
  const latest = useRef(operation);
  useEffect(() => {
    latest.current = operation;
  });
  const live = useLiveOperation(
    operation,
    useCallback(
      (title: string, saved: Operation) => {
        // What was asked for meanwhile stays.
        if (JSON.stringify(latest.current) === JSON.stringify(saved)) cancel();
        done(title);
      },
      [cancel, done],
    ),
  );
  useEffect(() => (wanted ? waits(cancel) : undefined), [wanted, cancel]);
  const settle = useCallback(
    (key: string, s: Settled) => setSettled((all) => ({ ...all, [key]: s })),
    [],
  );
  const want = useCallback((act: Act, spots: Titled[]) => setWanted({ act, spots }), []);
  return {
    wanted,
    want,
    cancel,
    subject: useMemo(() => subjectOf(live.operated), [live.operated]),
    doing: {
      ...{ live, filled, fill, inBlock, setInBlock, settled, settle },
      ...{ swap, setSwap, rest, setRest, cancel },
    },
  };
}
