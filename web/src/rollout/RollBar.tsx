import Button from "@mui/material/Button";
import { useSearchParams } from "react-router";
import { rolledOf } from "../api/client";
import { Say, Sentence } from "../shared/Say";
import type { useLiveOperation } from "../shared/useOperation";
import { tally } from "./chosen";
import type { Way } from "./RollWhat";

interface Props {
  way: Way;
  live: ReturnType<typeof useLiveOperation>;
  none: () => void;
}

/** What happens to the chosen pages, and carrying it out. */
export function RollBar({ way, live, none }: Props) {
  const [, setParams] = useSearchParams();
  const { operated } = live;
  const rolled = rolledOf(operated);
  const problem = live.error || operated?.proposal.problems[0]?.message;
  const first = rolled?.find((r) => r.outcome === "added" || r.outcome === "removed")?.page;
  const changes = operated?.change_set.changes.length ?? 0;
  const look = (page: string) =>
    setParams((p) => {
      p.set("peek", page);
      return p;
    });
  const actions = (
    <>
      {first && (
        <Button variant="outlined" color="secondary" onClick={() => look(first)}>
          Look at them
        </Button>
      )}
      <Button variant="outlined" color="secondary" onClick={none}>
        Choose none
      </Button>
      <Button
        variant="contained"
        disabled={!live.savable || changes === 0 || live.error !== ""}
        onClick={live.carryOut}
      >
        {way === "put" ? "Put it there" : "Take it off"}
      </Button>
    </>
  );
  return (
    <Say tone={problem ? "bad" : "would"} actions={actions}>
      {problem ? (
        <span className="bad-text">{problem}</span>
      ) : operated && rolled ? (
        <>
          {tally(rolled, way === "put" ? "get" : "lose")}{" "}
          {operated.proposal.impact && changes > 0 && (
            <Sentence text={operated.proposal.impact.sentence} />
          )}
        </>
      ) : (
        "Working out what happens to each page…"
      )}
    </Say>
  );
}
