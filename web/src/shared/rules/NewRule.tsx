import Button from "@mui/material/Button";
import { useQueryClient } from "@tanstack/react-query";
import { useCallback } from "react";
import { useNavigate } from "react-router";
import { api, unwrap, type Overview, type RuleSummary } from "../../api/client";
import { layoutsOf, overviewOf, rulesOf, useSite } from "../../api/queries";
import { useBuffers } from "../buffers";
import { tell } from "../notices";
import { Choice } from "../Choice";

/** The region that a block most likely belongs to: where rules put it already, else
 *  the one that is named like it, or in the words on what it is for, else the first. */
export function likelyRegion(
  block: string,
  about: string,
  rules: RuleSummary[],
  regions: string[],
): string {
  const placed = rules.find((r) => r.block === block)?.region;
  if (placed) return placed;
  const words = block.split("-");
  const told = about.toLowerCase().split(/[^a-z0-9-]+/);
  return (
    regions.find((r) => words.includes(r)) ??
    regions.find((r) => r !== "main" && told.includes(r)) ??
    regions.find((r) => r === "sidebar") ??
    regions.find((r) => r !== "main") ??
    regions[0] ??
    "main"
  );
}

/** A name that no rule has: block, or block-2. */
export function freeName(block: string, rules: RuleSummary[]): string {
  const taken = new Set(rules.map((r) => r.name));
  for (let i = 1; ; i++) {
    const name = i === 1 ? block : `${block}-${i}`;
    if (!taken.has(name)) return name;
  }
}

/** Begins a rule for a block as an edit that is not saved, and opens it, which gone is told with its address. */
export function useNewRule(gone?: (to: string) => void) {
  const site = useSite();
  const client = useQueryClient();
  const buffers = useBuffers();
  const go = useNavigate();
  const begin = useCallback(
    async (block: string) => {
      const [rules, layouts, overview] = await Promise.all([
        client.query(rulesOf(site)),
        client.query(layoutsOf(site)),
        client.query(overviewOf(site)),
      ]);
      const about = overview.blocks.find((b) => b.name === block)?.about ?? "";
      const name = freeName(block, rules);
      const title = `${overview.blocks.find((b) => b.name === block)?.title ?? block}${name.slice(block.length).replace("-", " ")}`;
      const region = likelyRegion(block, about, rules, [
        ...new Set(layouts.flatMap((l) => l.regions.map((r) => r.name))),
      ]);
      const made = unwrap(
        await api.POST("/sites/{site}/operations", {
          params: { path: { site } },
          body: { operation: "new-rule", name, title, block, region },
        }),
      );
      const change = made.change_set.changes[0];
      if (!change?.text) return;
      buffers.set(site, change.path, { text: change.text, base: "" });
      const to = `/${site}/rules/${name}`;
      void go(to);
      gone?.(to);
    },
    [site, client, buffers, go, gone],
  );
  return useCallback(
    (block: string) => {
      begin(block).catch((e: unknown) => tell((e as Error).message, "error"));
    },
    [begin],
  );
}

/** Chooses the block of a new rule. */
export function NewRule({ overview }: { overview: Overview }) {
  const begin = useNewRule();
  return (
    <span className="new-rule">
      New rule for{" "}
      <Choice
        label="New rule for a block"
        value=""
        prompt="a block…"
        choose={begin}
        options={overview.blocks.map((b) => [b.name, b.title])}
      />
    </span>
  );
}

/** A button that begins a rule for one block. */
export function PlaceByRule({ block }: { block: string }) {
  const begin = useNewRule();
  return (
    <Button variant="outlined" color="secondary" onClick={() => begin(block)}>
      Place by a rule
    </Button>
  );
}
