import { Waiting } from "../shared/Waiting";
import Button from "@mui/material/Button";
import { useCallback, useMemo } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import { type Overview, type RuleSummary } from "../api/client";
import { useRuleReading, useSite } from "../api/queries";
import { HistoryFold } from "../shared/history/History";
import { StaleText } from "../shared/editor/StaleText";
import { Say } from "../shared/Say";
import { reachStates } from "../shared/states";
import { useBench } from "../shared/useBench";
import { usePending } from "../shared/usePending";
import { useKeyEdits } from "../shared/useTextEdits";
import { useWallSubject, type WallSubject } from "../shared/wall/subject";
import { goFirst } from "./goFirst";
import { RuleSentence } from "./RuleSentence";
import { RuleValues } from "../shared/rules/RuleValues";
import { toggled } from "../shared/rules/targets";
import { EditBar } from "../shared/EditBar";
import { Met } from "./Met";
import { RuleTargets } from "./RuleTargets";

/** One rule, written as a sentence. The wall shows which pages it takes, which it loses
 *  and where it takes the place of something. */
export function RuleEditor({
  name,
  known,
  overview,
}: {
  name: string;
  known: RuleSummary | undefined;
  overview: Overview;
}) {
  const path = `rules/${name}.yaml`;
  const site = useSite();
  const go = useNavigate();
  const { text, edit, impact, problems, save, savable } = useBench(
    path,
    known ? `Edit the rule ${known.title || name}` : `New rule ${name}`,
    known !== undefined,
  );
  const { data: reading } = useRuleReading(name, text.text);
  const keys = useKeyEdits(path, text.text, text.set);
  const { set, setAll } = keys;
  const pending = usePending(useCallback(() => void go(`/${site}/rules`), [go, site]));
  const rule = reading?.rule;
  const on = useMemo(() => rule?.on ?? [], [rule]);
  const except = useMemo(() => rule?.except ?? [], [rule]);
  const toggleOn = useCallback((t: string) => set(["on"], toggled(on, t)), [set, on]);
  const toggleExcept = useCallback(
    (t: string) => {
      const next = except.includes(t) ? except.filter((e) => e !== t) : [...except, t];
      set(["except"], next.length ? next : null);
    },
    [set, except],
  );
  const subject = useMemo<WallSubject>(
    () => ({
      question: "takes",
      about: "Click a brick to name its page",
      states: reachStates(reading?.reach ?? ""),
      against: impact && edit.proposal ? edit.proposal.id : "live",
      pick: (page) => toggleOn(`page:${page}`),
    }),
    [reading, impact, edit.proposal, toggleOn],
  );
  useWallSubject(pending.subject ?? subject);
  const [, setParams] = useSearchParams();
  const first =
    overview.pages[subject.states.findIndex((s) => s !== "none" && s !== "hidden")]?.path;
  const ahead =
    reading &&
    goFirst(
      reading,
      overview.pages.map((p) => p.path),
    );
  const before = ahead && (
    <Button size="small" variant="outlined" color="secondary" onClick={() => setAll(ahead)}>
      Discard that edit first
    </Button>
  );
  const look = () =>
    setParams((p) => {
      if (first) p.set("peek", first);
      return p;
    });
  if (!known && !text.dirty)
    return (
      <p className="empty" role="alert">
        There is no rule {name}. <Link to={`/${site}/rules`}>All rules</Link>
      </p>
    );
  if (!rule) return <Waiting error={null}>Opening…</Waiting>;
  return (
    <>
      <div className="subject">
        <Link to={`/${site}/rules?region=${rule.region}`}>Rules</Link>
        <h1 dir="auto">{rule.title || name}</h1>
        <span className="soft">{path}</span>
        {known && (
          <Button
            size="small"
            sx={{ marginLeft: "auto" }}
            onClick={() => pending.ask("Delete it", { operation: "delete-rule", name })}
          >
            Delete
          </Button>
        )}
      </div>
      {pending.bar ??
        (edit.dirty ? (
          <EditBar
            impact={impact}
            problems={problems}
            wrong={keys.wrong}
            look={first ? look : undefined}
            drop={text.drop}
            savable={savable}
            save={save}
            words={
              known
                ? "Save to draft"
                : rule.enabled
                  ? "Save it, switched on"
                  : "Save it, switched off"
            }
          />
        ) : (
          <Say tone="quiet" actions={before}>
            <Met reading={reading} overview={overview} />
          </Say>
        ))}
      {text.stale ? (
        <StaleText path={path} text={text} />
      ) : (
        <div className="halves">
          <div className="panel">
            <div className="scroll">
              <RuleSentence
                rule={rule}
                set={set}
                setAll={setAll}
                overview={overview}
                toggleOn={toggleOn}
                toggleExcept={toggleExcept}
              />
              {edit.dirty && (
                <p className="rule-met">
                  <Met reading={reading} overview={overview} /> {before}
                </p>
              )}
              <RuleValues rule={rule} set={set} />
              {known && <HistoryFold paths={[[path, "Rule"]]} idle={subject} />}
            </div>
          </div>
          <RuleTargets on={on} except={except} toggleOn={toggleOn} toggleExcept={toggleExcept} />
        </div>
      )}
    </>
  );
}
