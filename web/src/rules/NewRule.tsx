import Button from "@mui/material/Button";
import { useSnackbar } from "notistack";
import { useNavigate } from "react-router";
import { api, unwrap, type Overview, type RuleSummary } from "../api/client";
import { useLayouts, useRules, useSite } from "../api/queries";
import { useBuffers } from "../shared/buffers";

/** The region that a block most likely belongs to: where rules put it already, else
 *  the one that is named like it, else the first. */
export function likelyRegion(block: string, rules: RuleSummary[], regions: string[]): string {
  const placed = rules.find((r) => r.block === block)?.region;
  if (placed) return placed;
  const words = block.split("-");
  return regions.find((r) => words.includes(r)) ?? regions.find((r) => r === "sidebar") ?? regions.find((r) => r !== "main") ?? regions[0] ?? "main";
}

/** A name that no rule has: block, or block-2. */
export function freeName(block: string, rules: RuleSummary[]): string {
  const taken = new Set(rules.map((r) => r.name));
  for (let i = 1; ; i++) {
    const name = i === 1 ? block : `${block}-${i}`;
    if (!taken.has(name)) return name;
  }
}

/** Begins a rule for a block as an edit that is not saved, and opens it. */
export function useNewRule(rules: RuleSummary[], regions: string[]) {
  const site = useSite();
  const buffers = useBuffers();
  const go = useNavigate();
  const { enqueueSnackbar } = useSnackbar();
  return (block: string) => {
    const name = freeName(block, rules);
    api.POST("/sites/{site}/operations", { params: { path: { site } }, body: { operation: "new-rule", name, block, region: likelyRegion(block, rules, regions) } })
      .then((a) => {
        const change = unwrap(a).change_set.changes[0];
        if (!change?.text) return;
        buffers.set(site, change.path, { text: change.text, base: "" });
        void go(`/${site}/rules/${name}`);
      })
      .catch((e: unknown) => enqueueSnackbar((e as Error).message, { variant: "error" }));
  };
}

/** Chooses the block of a new rule. */
export function NewRule({ overview, rules, regions }: { overview: Overview; rules: RuleSummary[]; regions: string[] }) {
  const begin = useNewRule(rules, regions);
  return (
    <label className="new-rule">New rule for <select aria-label="New rule for a block" value="" onChange={(e) => begin(e.target.value)}>
      <option value="" disabled>a block…</option>
      {overview.blocks.map((b) => <option key={b.name} value={b.name}>{b.title}</option>)}
    </select></label>
  );
}

/** A button that begins a rule for one block. */
export function PlaceByRule({ block }: { block: string }) {
  const rules = useRules();
  const layouts = useLayouts();
  const begin = useNewRule(rules.data ?? [], [...new Set((layouts.data ?? []).flatMap((l) => l.regions.map((r) => r.name)))]);
  return <Button variant="outlined" color="secondary" disabled={!rules.data || !layouts.data} onClick={() => begin(block)}>Place by a rule</Button>;
}
