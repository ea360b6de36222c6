import { TargetTree } from "../shared/rules/TargetTree";

interface Props {
  on: string[];
  except: string[];
  toggleOn: (target: string) => void;
  toggleExcept: (target: string) => void;
}

/** All that a rule can name, each to be put on its list or on that of the exceptions. */
export function RuleTargets({ on, except, toggleOn, toggleExcept }: Props) {
  return (
    <div className="panel">
      <TargetTree
        label="What the rule names"
        enter={(r) => toggleOn(r.target)}
        actions={(r) => (
          <>
            <button
              type="button"
              className="plain toggle"
              aria-pressed={on.includes(r.target)}
              aria-label={`Include ${r.title} ${r.detail}`}
              onClick={() => toggleOn(r.target)}
            >
              include
            </button>
            <button
              type="button"
              className="plain toggle not"
              aria-pressed={except.includes(r.target)}
              aria-label={`Exclude ${r.title} ${r.detail}`}
              onClick={() => toggleExcept(r.target)}
            >
              exclude
            </button>
          </>
        )}
      />
    </div>
  );
}
