import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import type { Layout, Overview } from "../api/client";
import { WhatCalls } from "./WhatCalls";
import { Choice } from "../shared/Choice";

export type Way = "put" | "take";

interface Props {
  way: Way;
  overview: Overview;
  regions: string[];
  calls: string;
  setCalls: (calls: string) => void;
  block: string;
  setBlock: (block: string) => void;
  region: string;
  setRegion: (region: string) => void;
  atStart: boolean;
  setAtStart: (atStart: boolean) => void;
  /** Page types of which new pages can begin with it too, and those that shall. */
  types: Layout[];
  begins: string[];
  begin: (type: string, on: boolean) => void;
  asCopies: boolean;
  setAsCopies: (on: boolean) => void;
}

/** What is put on many pages, or taken off them, and where. */
export function RollWhat(p: Props) {
  return (
    <div className="roll-what">
      {p.way === "put" ? (
        <WhatCalls calls={p.calls} change={p.setCalls} />
      ) : (
        <span>
          Take off{" "}
          <Choice
            label="Take off"
            value={p.block}
            prompt="a block…"
            choose={p.setBlock}
            options={p.overview.blocks.map((b) => [b.name, b.title])}
          />
        </span>
      )}
      <Where {...p} />
      {p.way === "put" && (
        <FormControlLabel
          sx={{ marginLeft: "-6px" }}
          control={
            <Checkbox
              size="small"
              checked={p.asCopies}
              onChange={(e) => p.setAsCopies(e.target.checked)}
            />
          }
          label="As copies: they show the same today, and no later edit of the block reaches them"
        />
      )}
      {p.way === "put" &&
        p.types.map((t) => (
          <FormControlLabel
            key={t.name}
            sx={{ marginLeft: "-6px" }}
            control={
              <Checkbox
                size="small"
                checked={p.begins.includes(t.name)}
                onChange={(e) => p.begin(t.name, e.target.checked)}
              />
            }
            label={`New pages of the type ${t.title} begin with it too`}
          />
        ))}
    </div>
  );
}

function Where({ way, regions, region, setRegion, atStart, setAtStart }: Props) {
  const toggle = (words: string, on: boolean, choose: () => void) => (
    <button key={words} type="button" className="plain toggle" aria-pressed={on} onClick={choose}>
      {words}
    </button>
  );
  return (
    <div className="roll-where" role="group" aria-label="Region">
      <span className="soft">{way === "put" ? "into" : "from"}</span>
      {way === "take" && toggle("any region", region === "", () => setRegion(""))}
      {regions.map((r) => toggle(r, region === r, () => setRegion(r)))}
      {way === "put" && (
        <span className="roll-where">
          <span className="soft">at its</span>
          {toggle("start", atStart, () => setAtStart(true))}
          {toggle("end", !atStart, () => setAtStart(false))}
        </span>
      )}
    </div>
  );
}
