import { useMemo, useState } from "react";
import { useLayouts, useOverview } from "../../api/queries";
import { Rows } from "../Rows";
import { Sliced } from "../Sliced";
import { targetRows, type Row } from "./targets";

interface Props {
  label: string;
  actions: (row: Row) => React.ReactNode;
  /** What Enter does with the first that is found. */
  enter?: (row: Row) => void;
}

/** The tree of everything that can be named: all, types, branches and pages, with what
 *  is done with each. */
export function TargetTree(props: Props) {
  return (
    <Sliced>
      <Tree {...props} />
    </Sliced>
  );
}

function Tree({ label, actions, enter }: Props) {
  const overview = useOverview();
  const layouts = useLayouts();
  const [filter, setFilter] = useState("");
  const rows = useMemo(
    () =>
      overview.data ? targetRows(overview.data.pages, layouts.data ?? [], overview.data.home) : [],
    [overview.data, layouts.data],
  );
  const found = useMemo(() => {
    const words = filter.toLowerCase().split(/\s+/).filter(Boolean);
    return words.length
      ? rows.filter((r) => words.every((w) => `${r.title} ${r.detail}`.toLowerCase().includes(w)))
      : rows;
  }, [rows, filter]);
  return (
    <>
      <div className="shelf-filter">
        <input
          type="search"
          aria-label={`Find in ${label}`}
          placeholder="Find a page, a branch, a type; or point at the wall"
          value={filter}
          onChange={(e) => setFilter(e.target.value)}
          onKeyDown={(e) => {
            const [first] = found;
            if (e.key === "Enter" && filter !== "" && first) enter?.(first);
          }}
          data-first=""
        />
      </div>
      <Rows
        label={label}
        height={30}
        items={found}
        keyOf={(r) => r.target}
        row={(r) => (
          <>
            <span style={{ paddingLeft: filter ? 0 : r.depth * 16 }} className="target-name">
              <b>{r.title}</b>{" "}
              <span className="soft">
                {r.detail}
                {r.pages > 1 || r.detail === "page type" ? ` ${r.pages}` : ""}
              </span>
            </span>
            <span className="end target-actions">{actions(r)}</span>
          </>
        )}
      />
      {found.length === 0 && <p className="empty">Nothing is called that.</p>}
    </>
  );
}
