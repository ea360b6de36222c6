import { useMemo } from "react";
import type { Overview, RuleSummary } from "../api/client";
import { useLayouts } from "../api/queries";
import type { KeyValue } from "../shared/useTextEdits";
import { RulePages } from "./RulePages";

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
      <RulePages
        rule={rule}
        layouts={layouts.data}
        setAll={setAll}
        toggleOn={toggleOn}
        toggleExcept={toggleExcept}
      />
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
