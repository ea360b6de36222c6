import { memo, useMemo, useState } from "react";
import type { Block, ChangeSet, Overview } from "../api/client";
import { useReference } from "../api/queries";
import { previewOf } from "../api/look";
import { Tabs } from "../shared/Tabs";
import { standing } from "../shared/states";
import { NotShown } from "../shared/NotShown";
import { useQuiet, useTry } from "../shared/useEdit";
import { Live, type Width } from "../shared/rendering/Live";

interface Props {
  block: Block;
  overview: Overview;
  proposalID: string; // of the edit as it stands, "" where there is none that can be looked at
  changes: ChangeSet["changes"];
  quiet: boolean;
  sound: boolean; // nothing is wrong with the edit
}

/** The block as it looks on a page, with the edit as it stands; where it stands on no
 *  page, as its sample on a page of its own. */
export function Rendering({ block, overview, proposalID, changes, quiet, sound }: Props) {
  const [width, setWidth] = useState<Width>("desk");
  const [chosen, setChosen] = useState("");
  const pages = useMemo(() => {
    const states = standing(overview.blocks.find((b) => b.name === block.name)?.states ?? "");
    return overview.pages
      .filter((_, i) => states[i] !== "none" && states[i] !== "hidden")
      .map((p) => p.path);
  }, [overview, block.name]);
  const page = pages.includes(chosen)
    ? chosen
    : (pages.find((p) => p !== overview.home) ?? overview.home);
  const shown = useQuiet(proposalID, quiet); // the wall comes first
  const tried = useQuiet(changes, quiet && sound);
  const { data } = useReference();
  const nowhere = pages.length === 0;
  const sample = useTry(
    (nowhere && data?.entries.find((e) => e.name === block.name)?.sample.replaceAll("…", "Text")) ||
      "",
    overview,
    tried,
  );
  const light = useMemo(() => ({ block: block.name, scroll: true }), [block.name]);
  return (
    <div className="panel">
      <div className="bar">
        <Tabs
          label="Width"
          className=""
          value={width}
          choose={setWidth}
          tabs={[
            ["desk", "Desk"],
            ["tablet", "Tablet"],
            ["phone", "Phone"],
          ]}
        />
        {nowhere ? (
          <span className="right soft">as its sample; it stands on no page</span>
        ) : (
          <PageChoice pages={pages} page={page} choose={setChosen} />
        )}
      </div>
      {nowhere && sample.problem ? (
        <NotShown what="Its sample" problem={sample.problem} />
      ) : (
        <Live
          url={nowhere ? sample.url : previewOf(overview, page, shown)}
          width={width}
          title={nowhere ? `${block.title} as its sample` : `${block.title} on ${page}`}
          light={light}
        />
      )}
    </div>
  );
}

/** How many pages the choice offers; the wall leads to all of them. */
const offered = 200;

const PageChoice = memo(function PageChoice({
  pages,
  page,
  choose,
}: {
  pages: string[];
  page: string;
  choose: (page: string) => void;
}) {
  const list = pages.slice(0, offered);
  return (
    <label className="right">
      on{" "}
      <select
        value={page}
        onChange={(e) => choose(e.target.value)}
        aria-label="Page of the rendering"
      >
        {!list.includes(page) && <option value={page}>{page}</option>}
        {list.map((p) => (
          <option key={p} value={p}>
            {p}
          </option>
        ))}
      </select>
    </label>
  );
});
