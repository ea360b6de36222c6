import { useState } from "react";
import type { Field, RuleSummary } from "../../api/client";
import { useBlock } from "../../api/queries";
import { FieldInput } from "../fields/FieldInput";
import { useChoices } from "../fields/useChoices";

/** The values that a rule sets for the fields of its block. */
export function RuleValues({
  rule,
  set,
}: {
  rule: RuleSummary;
  set: (keys: string[], value: unknown) => void;
}) {
  const { data } = useBlock(rule.block);
  const choices = useChoices();
  const [typed, setTyped] = useState<Record<string, string>>({});
  if (!data || data.fields.length === 0) return null;
  const put = (f: Field, value: string) => {
    setTyped((t) => ({ ...t, [f.name]: value }));
    set(["set", f.name], plain(f, value));
  };
  return (
    <div className="fields">
      <p className="soft">
        Values that the rule sets. The others are the block's, or what a page says of its own.
      </p>
      {data.fields.map((f) => {
        const own = f.name in rule.set;
        return (
          <div key={f.name} className="rule-value">
            <FieldInput
              field={f}
              value={typed[f.name] ?? rule.set[f.name] ?? f.default_text}
              change={(v) => put(f, v)}
              choices={choices}
              about={own ? "set by the rule" : "as the block has it"}
            />
            {own && (
              <button
                type="button"
                className="plain toggle"
                onClick={() => {
                  setTyped((t) =>
                    Object.fromEntries(Object.entries(t).filter(([k]) => k !== f.name)),
                  );
                  set(["set", f.name], null);
                }}
                aria-label={`Reset ${f.label} to the block's`}
              >
                Reset
              </button>
            )}
          </div>
        );
      })}
    </div>
  );
}

/** A value as YAML has it, from what somebody types. */
export function plain(f: Field, value: string): unknown {
  if (f.type === "switch") return value === "true";
  if (f.type === "number" && value.trim() !== "" && Number.isFinite(Number(value)))
    return Number(value);
  if (f.type === "list" || (f.type === "link" && value.startsWith("{"))) {
    try {
      return JSON.parse(value) as unknown;
    } catch {
      return value;
    }
  }
  return value;
}
