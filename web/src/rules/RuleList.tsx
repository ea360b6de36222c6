import { memo, useMemo, useState } from "react";
import type { Layout, OperationOf, RuleSummary } from "../api/client";
import { Sorted, useRow } from "../shared/sorting";
import { useGrowing } from "../shared/useGrowing";
import { useCalled } from "../shared/useCalled";
import { targetWords } from "../shared/rules/targets";

interface Props {
  rules: RuleSummary[];
  /** Those of the layouts; null until they are known. */
  regions: string[] | null;
  layouts: Layout[];
  chosen: string;
  choose: (region: string) => void;
  open: (rule: string) => void;
  order: (region: string, names: string[]) => void;
  waiting: OperationOf<"order-rules"> | null;
}

/** So many rules are seen at once. */
const few = 12;

/** Of more than these, only those of the chosen region stand open. */
const many = 80;
const ignored = () => undefined;

/** The rules by region, each as a sentence, put in order by drag or keyboard. */
export function RuleList({ rules, regions, layouts, chosen, choose, open, order, waiting }: Props) {
  const [filter, setFilter] = useState("");
  const known = regions ?? [];
  const found = useMemo(() => {
    const words = filter.toLowerCase().split(/\s+/).filter(Boolean);
    return rules.filter((r) => {
      const said = [
        r.title,
        r.name,
        r.block,
        r.region,
        ...r.on.map((t) => targetWords(t, layouts)),
        r.enabled ? "" : "off",
      ]
        .join(" ")
        .toLowerCase();
      return words.every((w) => said.includes(w));
    });
  }, [rules, layouts, filter]);
  const all = [
    ...known,
    ...new Set(rules.map((r) => r.region).filter((r) => !known.includes(r))),
  ].filter((region) => !filter || found.some((r) => r.region === region));
  return (
    <>
      {rules.length > few && (
        <div className="shelf-filter">
          <input
            type="search"
            aria-label="Filter the rules"
            placeholder="Filter: a block, a region, a branch"
            value={filter}
            onChange={(e) => setFilter(e.target.value)}
          />
        </div>
      )}
      <div className="scroll">
        {filter && found.length === 0 && <p className="empty">No rule says that.</p>}
        {all.map((region) => {
          const own = found.filter((r) => r.region === region);
          const folded = rules.length > many && !filter && region !== chosen;
          const names = waiting?.region === region ? waiting.rules : own.map((r) => r.name);
          return (
            <section
              key={region}
              aria-label={`Rules of ${region}`}
              className={region === chosen ? "rule-region chosen" : "rule-region"}
            >
              <h2>
                <button
                  type="button"
                  className="plain"
                  aria-pressed={region === chosen}
                  aria-expanded={rules.length > many ? !folded : undefined}
                  onClick={() => choose(region)}
                >
                  {region}
                </button>
                {own.length > 0 && <span className="soft"> {own.length}</span>}
                {regions && !regions.includes(region) && (
                  <span className="bad-text"> no layout has this region</span>
                )}
              </h2>
              {folded ? null : own.length === 0 ? (
                <p className="soft">
                  No rule. What stands there is the pages' own, or the layout's.
                </p>
              ) : (
                <OneRegion
                  rules={names.flatMap((n) => own.find((r) => r.name === n) ?? [])}
                  layouts={layouts}
                  open={open}
                  order={filter ? null : (n) => order(region, n)}
                />
              )}
            </section>
          );
        })}
      </div>
    </>
  );
}

function OneRegion({
  rules,
  layouts,
  open,
  order,
}: {
  rules: RuleSummary[];
  layouts: Layout[];
  open: (rule: string) => void;
  /** Null while only some of them are shown. */
  order: ((names: string[]) => void) | null;
}) {
  const blockCalled = useCalled();
  const shown = useGrowing(rules.length);
  return (
    <Sorted keys={rules.map((r) => r.name)} order={order ?? ignored}>
      <ol className="rule-list">
        {rules.slice(0, shown).map((r) => (
          <OneRule
            key={r.name}
            rule={r}
            layouts={layouts}
            open={open}
            sorts={order !== null}
            blockCalled={blockCalled}
          />
        ))}
      </ol>
    </Sorted>
  );
}

const OneRule = memo(function OneRule({
  rule,
  layouts,
  open,
  sorts,
  blockCalled,
}: {
  rule: RuleSummary;
  layouts: Layout[];
  open: (rule: string) => void;
  /** Whether it can be put elsewhere. */
  sorts: boolean;
  /** What a document is called, by its path. */
  blockCalled: (path: string) => string;
}) {
  const called = rule.title || rule.name;
  const block = blockCalled(`blocks/${rule.block}.html`);
  const { row, handle } = useRow(rule.name, called);
  const values = Object.entries(rule.set);
  return (
    <li {...row} className={rule.enabled ? "" : "off"}>
      {sorts && handle}
      <button
        type="button"
        className="plain"
        onClick={() => open(rule.name)}
        aria-label={`Open the rule ${called}`}
      >
        <b dir="auto">{rule.title || block}</b>{" "}
        {rule.title && <span className="soft">{block}</span>} on{" "}
        {rule.on.map((t) => targetWords(t, layouts)).join(", ")}
        {rule.except.length > 0 && (
          <> except {rule.except.map((t) => targetWords(t, layouts)).join(", ")}</>
        )}
        {values.length > 0 && (
          <span className="soft"> with {values.map(([k, v]) => `${k} ${v}`).join(", ")}</span>
        )}
        {rule.audience !== "everyone" && <span className="soft"> for {rule.audience}</span>}
        {(rule.from || rule.until) && (
          <span className="soft">
            {" "}
            {rule.from && `from ${rule.from}`} {rule.until && `until ${rule.until}`}
          </span>
        )}
      </button>
      <span className="soft">
        {rule.enabled
          ? rule.shows === rule.takes
            ? rule.shows
            : `${rule.shows} of ${rule.takes}`
          : "off"}
      </span>
    </li>
  );
});
