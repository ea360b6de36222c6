import { RuleLink } from "../shared/rules/RuleLink";
import { useEffect, useMemo, useRef } from "react";
import type { Explanation, Operation, PagePart, RegionStory } from "../api/client";
import { useReference, useRules } from "../api/queries";
import { Droppable, type Moved } from "../shared/sorting";
import { Orphans } from "./Orphans";
import { RegionOutline } from "./RegionOutline";
import type { Doing } from "./useDoing";

/** A page's outline: its regions and what stands in them, brought by rules, by the page
 *  itself and by its layout; put there from the shelf, moved, hidden and taken out. */
export function Outline({
  story,
  lit,
  doing,
  ask,
}: {
  story: Explanation;
  lit: string;
  doing: Doing;
  ask: (verb: string, operation: Operation) => void;
}) {
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    // The form of what is lit takes room from the list a moment later.
    const timer = setTimeout(
      () => box.current?.querySelector(".lit")?.scrollIntoView({ block: "nearest" }),
      150,
    );
    return () => clearTimeout(timer);
  }, [lit]);
  const reference = useReference();
  const rules = useRules();
  const titles = useMemo(
    () => new Map((reference.data?.entries ?? []).map((e) => [e.name, e.title])),
    [reference.data],
  );
  const atStart = useMemo(
    () => new Set((rules.data ?? []).filter((r) => r.at === "start").map((r) => r.name)),
    [rules.data],
  );
  const regions = regionsOf(story);
  const moved = ({ active, over }: Moved) => {
    if (!over) return;
    const [lifted, onto] = [String(active.id), String(over.id)];
    if (lifted.includes("/rule:")) {
      const at = ownPlace(story.parts, onto);
      if (at && !lifted.startsWith(`${at.region}/`))
        doing.edit({ edit: "own", address: lifted, ...at }, true);
      return;
    }
    const move = moveTo(story.parts, Number(lifted), onto);
    if (move) doing.edit({ edit: "move", from: Number(active.id), ...move });
  };
  return (
    <div className="scroll page-outline" ref={box}>
      <Orphans story={story} settled={doing.settled} ask={ask} />
      <Droppable moved={moved}>
        {regions.map((r) => (
          <RegionOutline
            key={r.region}
            region={r}
            parts={story.parts.filter((p) => p.region === r.region)}
            hidden={story.hidden}
            lost={story.lost.includes(r.region)}
            others={regions
              .filter((o) => o.region !== r.region && !story.lost.includes(o.region))
              .map((o) => o.region)}
            titles={titles}
            atStart={atStart}
            lit={lit}
            doing={doing}
          />
        ))}
      </Droppable>
      {story.homeless.length > 0 && (
        <section className="region">
          <h2>Rules for regions that this page lacks</h2>
          <ul className="losers">
            {story.homeless.map((c) => (
              <li key={c.rule}>
                <b>{titles.get(c.block) ?? c.block}</b> by <RuleLink rule={c.rule} />: {c.words}
              </li>
            ))}
          </ul>
        </section>
      )}
    </div>
  );
}

/** The regions of the layout, and those that the page fills and the layout lacks. */
function regionsOf(story: Explanation): RegionStory[] {
  const bare = (region: string): RegionStory => ({
    region,
    mode: "stack",
    width: 0,
    shows: "nothing",
    filled: true,
    candidates: [],
  });
  const lost = story.lost.map(bare);
  if (story.regions.length === 0)
    return [{ ...bare("main"), shows: "page" }, ...lost.filter((r) => r.region !== "main")];
  return [...story.regions, ...lost];
}

/** Where a part goes that is dropped over another one, or over a region; null where it
 *  stays. Parts are known by where they begin. */
export function moveTo(
  parts: PagePart[],
  from: number,
  over: string,
): { region: string; before: number } | null {
  if (over.startsWith("region:")) return { region: over.slice("region:".length), before: -1 };
  const part = parts.find((p) => p.from === from);
  const target = parts.find((p) => String(p.from) === over);
  if (!part || !target || part === target) return null;
  const row = parts.filter((p) => p.region === target.region && !p.within);
  const at = row.indexOf(target);
  return {
    region: target.region,
    before: part.region === target.region && row.indexOf(part) < at ? at + 1 : at,
  };
}

/** Where in the page's own text something comes to stand that is dropped over a part of it, or over a
 *  region; null where neither is. */
export function ownPlace(
  parts: PagePart[],
  over: string,
): { region: string; before: number } | null {
  if (over.startsWith("region:")) return { region: over.slice("region:".length), before: -1 };
  const target = parts.find((p) => String(p.from) === over);
  if (!target) return null;
  const row = parts.filter((p) => p.region === target.region && !p.within);
  return { region: target.region, before: row.indexOf(target) };
}
