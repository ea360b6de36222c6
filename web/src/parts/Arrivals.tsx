import Button from "@mui/material/Button";
import { useCallback, useMemo, useState } from "react";
import { useNavigate } from "react-router";
import type { Operation, OperationOf, Overview } from "../api/client";
import type { Arrival, Decision } from "../api/parts";
import { tellSaved } from "../shared/notices";
import { placeOf } from "../shared/placeOf";
import { Say } from "../shared/Say";
import { useLiveOperation } from "../shared/useOperation";
import { Answer } from "../shared/usePending";
import { useSaveKey } from "../shared/useSaveKey";
import { subjectOf, useWallSubject, type WallSubject } from "../shared/wall/subject";
import { ArrivalRow } from "./ArrivalRow";
import { summary } from "./words";

interface Props {
  overview: Overview;
  ask: Pick<OperationOf<"arrive">, "part" | "from" | "of">;
  /** Where the site is shown that it comes from; "" where it comes as a zip. */
  origin: string;
  /** What the wall says until it is known what would come in. */
  idle: WallSubject;
  leave: () => void;
}

/** What comes in, how each of it stands to what is here, and what is done with it. */
export function Arrivals({ overview, ask, origin, idle, leave }: Props) {
  const go = useNavigate();
  const [decided, setDecided] = useState(new Map<string, Decision>());
  const operation = useMemo<Operation>(
    () => ({ operation: "arrive", ...ask, decisions: [...decided.values()] }),
    [ask, decided],
  );
  const [list, setList] = useState<Arrival[]>([]);
  const live = useLiveOperation(
    operation,
    useCallback(
      (title: string) => {
        tellSaved(title);
        const came = list.filter((a) => a.take !== "mine");
        const first =
          came.find((a) => ask.of?.includes(a.id)) ??
          came.find((a) => a.kind === "block") ??
          came[0];
        void go(first ? placeOf(overview.name, first.as, overview).to : `/${overview.name}/parts`);
      },
      [go, list, overview, ask.of],
    ),
  );
  const now = live.operated?.answer === "arrived" ? live.operated.arrivals : list;
  if (now !== list) setList(now); // what is seen stays until the next answer
  const subject = useMemo(() => subjectOf(live.operated), [live.operated]);
  useWallSubject(subject ?? idle);
  const nothing = live.operated?.change_set.changes.length === 0;
  useSaveKey(!live.operated && !live.error, live.savable && !nothing, live.carryOut);
  const decide = useCallback((d: Decision) => setDecided((old) => new Map(old).set(d.id, d)), []);
  return (
    <section className="panel arrivals" aria-label="What comes in">
      <Say
        tone={live.error || live.operated?.proposal.problems.length ? "bad" : "would"}
        actions={
          <>
            <Button variant="outlined" color="secondary" onClick={leave}>
              Leave it
            </Button>
            <Button
              variant="contained"
              disabled={!live.savable || nothing}
              onClick={live.carryOut}
              title="Ctrl+S"
            >
              Bring it in
            </Button>
          </>
        }
      >
        {nothing ? (
          "Nothing would come in: what is here stays as it is."
        ) : (
          <Answer error={live.error} operated={live.operated} />
        )}
      </Say>
      {list.length > 0 && <p className="file-facts">{summary(list, decided)}</p>}
      <ul className="scroll arrival-list" aria-label="What comes in">
        {inOrder(list).map((a) => (
          <ArrivalRow
            key={a.id}
            arrival={a}
            decided={decided.get(a.id)}
            decide={decide}
            here={overview.site_origin}
            there={origin}
          />
        ))}
      </ul>
    </section>
  );
}

const rank: Record<Arrival["state"], number> = {
  different: 0,
  both: 0,
  newer: 1,
  edited: 1,
  new: 2,
  equal: 3,
};

/** What is to be decided first, what is the same at the end. */
const inOrder = (list: Arrival[]) => [...list].sort((a, b) => rank[a.state] - rank[b.state]);
