import type { Page } from "../api/client";
import { TargetTree } from "../shared/rules/TargetTree";
import { docsOf, withOrWithout } from "./chosen";

interface Props {
  pages: Page[];
  home: string;
  chosen: ReadonlySet<string>;
  set: (chosen: ReadonlySet<string>) => void;
}

/** All pages, branches and types, each to be chosen or not. */
export function PagesToChoose({ pages, home, chosen, set }: Props) {
  return (
    <div className="panel">
      <TargetTree
        label="Pages"
        actions={(r) => {
          const docs = docsOf(r.target, pages, home);
          const n = docs.filter((d) => chosen.has(d)).length;
          return (
            <>
              {n > 0 && n < docs.length && (
                <span className="soft">
                  {n} of {docs.length}
                </span>
              )}
              <button
                type="button"
                className="plain toggle"
                aria-pressed={docs.length > 0 && n === docs.length}
                aria-label={`Choose ${r.title} ${r.detail}`}
                onClick={() => set(withOrWithout(chosen, docs))}
              >
                choose
              </button>
            </>
          );
        }}
      />
    </div>
  );
}
