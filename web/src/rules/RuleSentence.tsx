import { TypedField } from "../shared/TypedField";
import { Suspense, useMemo } from "react";
import type { Overview, RuleSummary } from "../api/client";
import { useLayouts } from "../api/queries";
import type { KeyValue } from "../shared/useTextEdits";
import { RulePages } from "./RulePages";
import { Choice } from "../shared/Choice";
import { DateInput } from "../shared/fields/laterDate";
import FormControlLabel from "@mui/material/FormControlLabel";
import Switch from "@mui/material/Switch";

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
      <TypedField
        label="Title of the rule"
        value={rule.title}
        placeholder={rule.name}
        change={(t) => set(["title"], t || null)}
      />
      <p>
        Put{" "}
        <Choice
          label="Block"
          value={rule.block}
          choose={(b) => set(["block"], b)}
          options={blocks.map((b) => [b.name, b.title])}
        />{" "}
        into the region{" "}
        <Choice
          label="Region"
          value={rule.region}
          choose={(r) => set(["region"], r)}
          options={regions.map((r) => [r, r])}
        />
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
            <Choice
              label="Side"
              value={rule.at}
              choose={(at) => set(["at"], at)}
              options={[
                ["start", "start"],
                ["end", "end"],
              ]}
            />{" "}
            of it,{" "}
          </>
        )}
        for{" "}
        <Choice
          label="Audience"
          value={rule.audience}
          choose={(a) => set(["audience"], a === "everyone" ? null : a)}
          options={[
            ["everyone", "everyone"],
            ["signed-in", "those who are signed in"],
            ["signed-out", "those who are signed out"],
          ]}
        />
      </p>
      <p>
        <Suspense>
          from{" "}
          <DateInput
            bare
            label="From"
            value={rule.from}
            max={rule.until}
            change={(d) => set(["from"], d || null)}
          />{" "}
          until{" "}
          <DateInput
            bare
            label="Until"
            value={rule.until}
            min={rule.from}
            change={(d) => set(["until"], d || null)}
          />
        </Suspense>{" "}
        <FormControlLabel
          className="switch-word"
          control={
            <Switch
              size="small"
              checked={rule.enabled}
              onChange={(e) => set(["enabled"], e.target.checked ? null : false)}
            />
          }
          label={`switched ${rule.enabled ? "on" : "off"}`}
        />
      </p>
    </div>
  );
}
