import Button from "@mui/material/Button";
import { useCallback, useMemo } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import { type Overview, type RuleReading, type RuleSummary } from "../api/client";
import { useLayouts, useRuleReading, useSite } from "../api/queries";
import { Conflict } from "../block/Conflict";
import { Say } from "../shared/Say";
import { reachStates } from "../shared/states";
import { useBench } from "../shared/useBench";
import { usePending } from "../shared/usePending";
import { useKeyEdits } from "../shared/useTextEdits";
import { useWallSubject, type WallSubject } from "../wall/subject";
import { goFirst } from "./goFirst";
import { RuleSentence } from "./RuleSentence";
import { RuleValues } from "./RuleValues";
import { TargetTree } from "./TargetTree";
import { toggled } from "./targets";
import { EditBar } from "../shared/EditBar";

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
    known ? `Edit the rule ${name}` : `New rule ${name}`,
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
      Let it go first
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
  if (!rule) return null;
  return (
    <>
      <div className="subject">
        <Link to={`/${site}/rules?region=${rule.region}`}>Rules</Link>
        <h1>{name}</h1>
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
        <Conflict
          path={path}
          theirs={text.saved}
          mine={text.text}
          keep={() => text.rebase(text.text)}
          drop={text.drop}
        />
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
            </div>
          </div>
          <div className="panel">
            <TargetTree
              label="What the rule names"
              actions={(r) => (
                <>
                  <button
                    type="button"
                    className="plain toggle"
                    aria-pressed={on.includes(r.target)}
                    aria-label={`On ${r.title} ${r.detail}`}
                    onClick={() => toggleOn(r.target)}
                  >
                    on
                  </button>
                  <button
                    type="button"
                    className="plain toggle not"
                    aria-pressed={except.includes(r.target)}
                    aria-label={`Not on ${r.title} ${r.detail}`}
                    onClick={() => toggleExcept(r.target)}
                  >
                    not
                  </button>
                </>
              )}
            />
          </div>
        </div>
      )}
    </>
  );
}

/** Whom the rule meets: what it takes the place of, and what it loses to. */
function Met({ reading, overview }: { reading: RuleReading | undefined; overview: Overview }) {
  const layouts = useLayouts();
  if (!reading) return null;
  const count = (letters: string) =>
    Array.from(reading.reach).filter((l) => letters.includes(l)).length;
  const title = (block: string) => overview.blocks.find((b) => b.name === block)?.title ?? block;
  const lacks = count("m");
  const takes = count("td");
  return (
    <span>
      {reading.rule.enabled ? "Takes" : "Switched off. It would take"} <b>{takes}</b>{" "}
      {takes === 1 ? "page" : "pages"}
      {reading.rule.from && ` from ${reading.rule.from} on`}
      {reading.rule.until && ` until ${reading.rule.until}`}.
      {reading.displaced.map((r) => (
        <span key={r.rule}>
          {" "}
          On {r.pages} in place of{" "}
          {r.rule ? (
            <>
              {title(r.block)} by <b>{r.rule}</b>
            </>
          ) : (
            "the layout's own content"
          )}
          .
        </span>
      ))}
      {reading.outranked.map((r) => (
        <span key={r.rule}>
          {" "}
          Loses {r.pages} to <b>{r.rule}</b>,{" "}
          {r.decides === "specificity"
            ? "which is more specific"
            : r.decides === "order"
              ? "which has the higher order"
              : "which comes first by name"}
          .
        </span>
      ))}
      {count("f") > 0 && <span> {count("f")} fill the region themselves.</span>}
      {lacks > 0 && (
        <span>
          {" "}
          {lacks} {lacks === 1 ? "lacks" : "lack"} the region {reading.rule.region}
          {layouts.data &&
          !layouts.data.some((l) => l.regions.some((r) => r.name === reading.rule.region))
            ? ", as no layout has it"
            : ""}
          .
        </span>
      )}
      {takes + count("lfmxh") === 0 && (
        <span className="bad-text"> No page is named; choose one at the right.</span>
      )}
    </span>
  );
}
