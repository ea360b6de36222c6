import { useMemo } from "react";
import { Link } from "react-router";
import type { Overview, WinningGroup, Winners } from "../api/client";
import { useSite } from "../api/queries";
import { RuleLink } from "../shared/rules/RuleLink";
import { useGrowing } from "../shared/useGrowing";
import { Rows } from "../shared/Rows";
import { Sign } from "../shared/wall/Sign";
import { keyOfGroup, winningStates } from "./winning";

/** What a group shows, in words. */
export function partWords(g: WinningGroup, titles: Map<string, string>): string {
  if (g.parts.length === 0) return "nothing";
  return g.parts
    .map((p) => {
      switch (p.kind) {
        case "page":
          return "the page's own text";
        case "default":
          return "the layout's own content";
        case "copy":
          return `a one-off copy of ${titles.get(p.block) ?? p.block}`;
        default:
          return titles.get(p.block) ?? p.block;
      }
    })
    .join(", then ");
}

/** For one region: which pages show what, through which rule, and where two rules tie. */
export function WhoWins({
  winners,
  overview,
  group,
  choose,
}: {
  winners: Winners;
  overview: Overview;
  group: string;
  choose: (group: string) => void;
}) {
  const site = useSite();
  const titles = useMemo(
    () => new Map(overview.blocks.map((b) => [b.name, b.title])),
    [overview.blocks],
  );
  const states = winningStates(winners, group);
  const pages = overview.pages
    .map((page, i) => ({ page, group: winners.groups[winners.of[i] ?? -1] }))
    .filter((p) => p.group && (!group || keyOfGroup(p.group) === group));
  const shown = useGrowing(winners.groups.length);
  const without = winners.of.filter((i) => i < 0).length;
  return (
    <>
      <div className="bar">
        <b style={{ color: "var(--ink)" }}>Who wins in {winners.region}</b>
        <span>
          {winners.mode === "one" ? "one thing stands there" : "all stand there in order"}
        </span>
        {group && (
          <button type="button" className="plain right" onClick={() => choose("")}>
            Show all
          </button>
        )}
      </div>
      <ul className="winning" aria-label={`What stands in ${winners.region}`}>
        {winners.groups.slice(0, shown).map((g) => {
          const key = keyOfGroup(g);
          const at = winners.groups.indexOf(g);
          return (
            <li key={key}>
              <button
                type="button"
                className="plain"
                aria-pressed={group === key}
                onClick={() => choose(group === key ? "" : key)}
              >
                <Sign state={winningStates({ ...winners, of: [at] }, "")[0] ?? "none"} />{" "}
                <b>{g.pages}</b> {g.pages === 1 ? "page shows" : "pages show"}{" "}
                {partWords(g, titles)}
              </button>
              {g.parts
                .filter((p) => p.rule)
                .map((p) => (
                  <RuleLink key={p.rule} rule={p.rule} />
                ))}
            </li>
          );
        })}
        {without > 0 && (
          <li>
            <span className="soft">
              {without} {without === 1 ? "page has" : "pages have"} no such region.
            </span>
          </li>
        )}
        {winners.ties.map((t) => (
          <li key={`${t.winner} ${t.loser}`} className="tie">
            <span>
              <b>
                A tie on {t.pages} {t.pages === 1 ? "page" : "pages"}:
              </b>{" "}
              <RuleLink rule={t.winner} /> and <RuleLink rule={t.loser} /> are as specific;{" "}
              {t.decides === "order"
                ? "the higher order decides"
                : "only the name decides. Drag one above the other to say it."}
            </span>
          </li>
        ))}
      </ul>
      <Rows
        label="Pages and what they show"
        height={28}
        items={pages}
        keyOf={(p) => p.page.doc}
        row={(p) => (
          <>
            <Sign state={states[overview.pages.indexOf(p.page)] ?? "none"} />
            <Link
              className="target-name"
              dir="auto"
              to={`/${site}/pages?doc=${encodeURIComponent(p.page.doc)}&tab=outline`}
            >
              {p.page.title}
            </Link>{" "}
            <span className="soft target-name">{p.page.path}</span>
            <span className="end soft target-name">{p.group && partWords(p.group, titles)}</span>
          </>
        )}
      />
    </>
  );
}
