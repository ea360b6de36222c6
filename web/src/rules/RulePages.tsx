import type { Layout, RuleSummary } from "../api/client";
import type { KeyValue } from "../shared/useTextEdits";
import { targetWords } from "../shared/rules/targets";

interface Props {
  rule: RuleSummary;
  layouts: Layout[] | undefined;
  setAll: (edits: KeyValue[]) => void;
  toggleOn: (target: string) => void;
  toggleExcept: (target: string) => void;
}

/** The words of a rule that say which pages it takes, and which it leaves out. */
export function RulePages({ rule, layouts, setAll, toggleOn, toggleExcept }: Props) {
  const pages = (on: string[], except: string[]) =>
    setAll([
      { keys: ["on"], value: on },
      { keys: ["except"], value: except.length > 0 ? except : null },
    ]);
  const others = rule.except.filter((t) => t !== "home");
  const onlyHome = rule.on.length === 1 && rule.on[0] === "home";
  const notHome = rule.on.includes("all") && rule.except.includes("home");
  return (
    <>
      <p>
        on{" "}
        {rule.on.map((t) => (
          <Chip
            key={t}
            words={targetWords(t, layouts)}
            from="pages"
            drop={() => toggleOn(t)}
            last={rule.on.length === 1}
          />
        ))}{" "}
        {!rule.on.includes("all") && <Word words="all pages" act={() => toggleOn("all")} />}
        {!rule.on.includes("home") && <Word words="the home page" act={() => toggleOn("home")} />}
      </p>
      <p>
        {rule.except.length > 0 && (
          <>
            except{" "}
            {rule.except.map((t) => (
              <Chip
                key={t}
                words={targetWords(t, layouts)}
                from="exceptions"
                drop={() => toggleExcept(t)}
              />
            ))}{" "}
          </>
        )}
        {!rule.except.includes("home") && !rule.on.includes("home") && (
          <Word words="except the home page" act={() => toggleExcept("home")} />
        )}
        {onlyHome && (
          <Word
            words="all pages except the home page instead"
            act={() => pages(["all"], [...rule.except, "home"])}
          />
        )}
        {notHome && <Word words="the home page only instead" act={() => pages(["home"], others)} />}
      </p>
    </>
  );
}

function Word({ words, act }: { words: string; act: () => void }) {
  return (
    <button type="button" className="plain word" onClick={act}>
      {words}
    </button>
  );
}

function Chip({
  words,
  from,
  drop,
  last = false,
}: {
  words: string;
  from: string;
  drop: () => void;
  last?: boolean;
}) {
  return (
    <span className="target-chip">
      {words}
      {!last && (
        <button
          type="button"
          className="plain"
          aria-label={`Remove ${words} from the ${from}`}
          onClick={drop}
        >
          ×
        </button>
      )}
    </span>
  );
}
