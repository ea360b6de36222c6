import { useCallback, useMemo, useState } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import type { Overview, RuleSummary } from "../api/client";
import { useLayouts, useOverview, useRules, useSite, useWinners } from "../api/queries";
import { Say } from "../shared/Say";
import { Sliced } from "../shared/Sliced";
import { Waiting } from "../shared/Waiting";
import { usePending } from "../shared/usePending";
import { useWallSubject, type WallSubject } from "../shared/wall/subject";
import { NewRule } from "../shared/rules/NewRule";
import { RuleEditor } from "./RuleEditor";
import { RuleList } from "./RuleList";
import { WhoWins } from "./WhoWins";
import { winningStates } from "./winning";

/** The Rules place: which rule puts what where, and who wins. */
export function RulesPlace() {
  const { name } = useParams();
  const overview = useOverview();
  const rules = useRules();
  if (rules.error)
    return (
      <p className="empty" role="alert">
        {rules.error.message}
      </p>
    );
  if (!overview.data || !rules.data) return <Waiting error={null}>Opening…</Waiting>;
  if (name)
    return (
      <RuleEditor
        key={name}
        name={name}
        known={rules.data.find((r) => r.name === name)}
        overview={overview.data}
      />
    );
  return (
    <Sliced before={<Waiting error={null}>Opening…</Waiting>}>
      <AllRules overview={overview.data} rules={rules.data} />
    </Sliced>
  );
}

function AllRules({ overview, rules }: { overview: Overview; rules: RuleSummary[] }) {
  const site = useSite();
  const go = useNavigate();
  const [params, setParams] = useSearchParams();
  const winners = useWinners();
  const layouts = useLayouts();
  const [group, setGroup] = useState("");
  const pending = usePending();
  const regions = useMemo(() => (winners.data ?? []).map((w) => w.region), [winners.data]);
  const region =
    winners.data?.find((w) => w.region === params.get("region")) ??
    winners.data?.find((w) => rules.some((r) => r.region === w.region)) ??
    winners.data?.[0];
  const choose = useCallback(
    (r: string) => {
      setGroup("");
      setParams(
        (p) => {
          p.set("region", r);
          return p;
        },
        { replace: true },
      );
    },
    [setParams],
  );
  const open = useCallback((n: string) => void go(`/${site}/rules/${n}`), [go, site]);
  const subject = useMemo<WallSubject>(
    () => ({
      question: "wins",
      about: region ? `What stands in ${region.region}?` : "",
      states: winningStates(region, group),
      against: "live",
    }),
    [region, group],
  );
  useWallSubject(pending.subject ?? subject);
  return (
    <>
      <div className="subject">
        <h1>Rules</h1>
        <span className="soft">
          {rules.length} {rules.length === 1 ? "rule says" : "rules say"} which block stands in
          which region of which pages
        </span>
        <span style={{ marginLeft: "auto" }}>
          <NewRule overview={overview} />
        </span>
      </div>
      {pending.bar ?? (
        <Say tone="quiet">
          <span className="soft">
            In a region for one thing the most specific rule wins: a page before home, before a
            branch, before a type or tag, before all. Put rules that are as specific in order by
            dragging.
          </span>
        </Say>
      )}
      <div className="halves">
        <div className="panel">
          <RuleList
            rules={rules}
            regions={winners.data ? regions : null}
            layouts={layouts.data ?? []}
            chosen={region?.region ?? ""}
            choose={choose}
            open={open}
            order={(r, names) =>
              pending.ask("Put them in this order", {
                operation: "order-rules",
                region: r,
                rules: names,
              })
            }
            waiting={pending.wanted?.operation === "order-rules" ? pending.wanted : null}
          />
        </div>
        <div className="panel">
          {region ? (
            <WhoWins winners={region} overview={overview} group={group} choose={setGroup} />
          ) : winners.isPending || winners.error ? (
            <Waiting error={winners.error}>Looking what stands where…</Waiting>
          ) : (
            <p className="empty">
              No layout has a region yet. <Link to={`/${site}/layouts`}>Layouts</Link> say where one
              is.
            </p>
          )}
        </div>
      </div>
    </>
  );
}
