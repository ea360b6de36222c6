import type { Overview, RuleReading } from "../api/client";
import { useRuleCalled } from "../shared/useCalled";
import { useLayouts } from "../api/queries";

/** Whom the rule meets: what it takes the place of, and what it loses to. */
export function Met({
  reading,
  overview,
}: {
  reading: RuleReading | undefined;
  overview: Overview;
}) {
  const layouts = useLayouts();
  const called = useRuleCalled();
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
              {title(r.block)} by <b dir="auto">{called(r.rule)}</b>
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
          Loses {r.pages} to <b dir="auto">{called(r.rule)}</b>,{" "}
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
