import { useMemo } from "react";
import type { Overview, RuleSummary } from "../api/client";
import { useLayouts } from "../api/queries";
import type { KeyValue } from "../shared/useTextEdits";
import { targetWords } from "./targets";

interface Props {
  rule: RuleSummary;
  set: (keys: string[], value: unknown) => void;
  setAll: (edits: KeyValue[]) => void;
  overview: Overview;
  toggleOn: (target: string) => void;
  toggleExcept: (target: string) => void;
}

/** A rule as a sentence whose words can be changed in place. */
export function RuleSentence({ rule, set, setAll, overview, toggleOn, toggleExcept }: Props) {
  const layouts = useLayouts();
  const regions = useMemo(
    () => [
      ...new Set(
        (layouts.data ?? []).flatMap((l) => l.regions.map((r) => r.name)).concat(rule.region),
      ),
    ],
    [layouts.data, rule.region],
  );
  const stacked = (layouts.data ?? []).some((l) =>
    l.regions.some((r) => r.name === rule.region && r.mode === "stack"),
  );
  const blocks = overview.blocks.some((b) => b.name === rule.block)
    ? overview.blocks
    : [...overview.blocks, { name: rule.block, title: `${rule.block} (not there)` }];
  return (
    <div className="sentence">
      <p>
        Put{" "}
        <select
          aria-label="Block"
          value={rule.block}
          onChange={(e) => set(["block"], e.target.value)}
        >
          {blocks.map((b) => (
            <option key={b.name} value={b.name}>
              {b.title}
            </option>
          ))}
        </select>{" "}
        into the region{" "}
        <select
          aria-label="Region"
          value={rule.region}
          onChange={(e) => set(["region"], e.target.value)}
        >
          {regions.map((r) => (
            <option key={r}>{r}</option>
          ))}
        </select>
      </p>
      <p>
        of{" "}
        {rule.on.map((t) => (
          <Chip
            key={t}
            words={targetWords(t, layouts.data)}
            drop={() => toggleOn(t)}
            last={rule.on.length === 1}
          />
        ))}{" "}
        {!rule.on.includes("all") && (
          <button type="button" className="plain word" onClick={() => toggleOn("all")}>
            all pages
          </button>
        )}
        {!rule.on.includes("home") && (
          <button type="button" className="plain word" onClick={() => toggleOn("home")}>
            the home page
          </button>
        )}
      </p>
      <p>
        {rule.except.length > 0 && (
          <>
            but not of{" "}
            {rule.except.map((t) => (
              <Chip key={t} words={targetWords(t, layouts.data)} drop={() => toggleExcept(t)} />
            ))}{" "}
          </>
        )}
        {!rule.except.includes("home") && !rule.on.includes("home") && (
          <button type="button" className="plain word" onClick={() => toggleExcept("home")}>
            but not of the home page
          </button>
        )}
        {onlyHome(rule) && (
          <button
            type="button"
            className="plain word"
            onClick={() =>
              setAll([
                { keys: ["on"], value: ["all"] },
                { keys: ["except"], value: [...rule.except, "home"] },
              ])
            }
          >
            rather of all but the home page
          </button>
        )}
        {notHome(rule) && (
          <button
            type="button"
            className="plain word"
            onClick={() =>
              setAll([
                { keys: ["on"], value: ["home"] },
                {
                  keys: ["except"],
                  value: rule.except.length > 1 ? rule.except.filter((t) => t !== "home") : null,
                },
              ])
            }
          >
            rather of the home page only
          </button>
        )}
      </p>
      <p>
        {stacked && (
          <>
            at the{" "}
            <select aria-label="Side" value={rule.at} onChange={(e) => set(["at"], e.target.value)}>
              <option value="start">start</option>
              <option value="end">end</option>
            </select>{" "}
            of it,{" "}
          </>
        )}
        for{" "}
        <select
          aria-label="Audience"
          value={rule.audience}
          onChange={(e) => set(["audience"], e.target.value === "everyone" ? null : e.target.value)}
        >
          <option value="everyone">everyone</option>
          <option value="signed-in">those who are signed in</option>
          <option value="signed-out">those who are signed out</option>
        </select>
      </p>
      <p>
        from{" "}
        <input
          type="date"
          aria-label="From"
          value={rule.from}
          max={rule.until || undefined}
          onChange={(e) => set(["from"], e.target.value || null)}
        />{" "}
        until{" "}
        <input
          type="date"
          aria-label="Until"
          value={rule.until}
          min={rule.from || undefined}
          onChange={(e) => set(["until"], e.target.value || null)}
        />{" "}
        <label className="switch-word">
          <input
            type="checkbox"
            role="switch"
            checked={rule.enabled}
            onChange={(e) => set(["enabled"], e.target.checked ? null : false)}
          />{" "}
          switched {rule.enabled ? "on" : "off"}
        </label>
      </p>
    </div>
  );
}

function Chip({ words, drop, last = false }: { words: string; drop: () => void; last?: boolean }) {
  return (
    <span className="target-chip">
      {words}
      {!last && (
        <button type="button" className="plain" aria-label={`Leave out ${words}`} onClick={drop}>
          ×
        </button>
      )}
    </span>
  );
}

const onlyHome = (rule: RuleSummary) => rule.on.length === 1 && rule.on[0] === "home";
const notHome = (rule: RuleSummary) => rule.on.includes("all") && rule.except.includes("home");
