import Button from "@mui/material/Button";
import { Link } from "react-router";
import type { Block } from "../api/client";
import { useSite } from "../api/queries";
import { PlaceByRule } from "../shared/rules/NewRule";
import { Tabs } from "../shared/Tabs";
import { CallChip } from "../shared/calls/CallChip";

export type Tab = "make" | "placements" | "values" | "manage" | "history";

interface Props {
  block: Block;
  linked: number;
  tab: Tab;
  choose: (tab: Tab) => void;
}

/** What block it is, how it is called, ways to put it somewhere, and its parts. */
export function BlockHead({ block, linked, tab, choose }: Props) {
  const site = useSite();
  return (
    <div className="subject">
      <h1 dir="auto">{block.title}</h1>
      <CallChip call={block.call} />
      <span className="soft">
        stands on {linked} {linked === 1 ? "page" : "pages"}
      </span>
      <PlaceByRule block={block.name} />
      <Button
        component={Link}
        to={`/${site}/roll-out?block=${block.name}`}
        variant="outlined"
        color="secondary"
      >
        Put on pages
      </Button>
      <Tabs
        label="Parts of the block"
        value={tab}
        choose={choose}
        tabs={[
          ["make", "Make"],
          ["placements", "Placements"],
          ["values", "Values"],
          ["manage", "Manage"],
          ["history", "History"],
        ]}
      />
    </div>
  );
}
