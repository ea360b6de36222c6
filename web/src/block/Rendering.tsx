import Button from "@mui/material/Button";
import { Suspense, useEffect, useMemo, useState } from "react";
import type { Block, ChangeSet, Overview } from "../api/client";
import { useReference } from "../api/queries";
import { previewOf } from "../api/look";
import { later } from "../shared/later";
import { standing } from "../shared/states";
import { Choice } from "../shared/Choice";
import { PagePick } from "../shared/PagePick";
import { NotShown } from "../shared/NotShown";
import { useQuiet, useTry } from "../shared/useEdit";
import { Faults, useFaults } from "../shared/rendering/Faults";
import type { Fault } from "../shared/rendering/heard";
import { Live, type Held, type Width } from "../shared/rendering/Live";
import { SightBar, useSight } from "../shared/rendering/Sight";
import { AnyWidth, useWidth } from "../shared/rendering/WidthTabs";

const CallPanel = later(() => import("../shared/calls/CallPanel"), "CallPanel");

interface Props {
  block: Block;
  overview: Overview;
  proposalID: string; // of the edit as it stands, "" where there is none that can be looked at
  changes: ChangeSet["changes"];
  quiet: boolean;
  sound: boolean; // nothing is wrong with the edit
  /** Told of what fails in what is shown. */
  fails?: (faults: Fault[]) => void;
}

/** What stands for a page where the block is looked at by itself. */
const alone = "";

/** The block as it looks on a page, with the edit as it stands, or by itself, with its sample or
 *  other values; where it stands on no page, by itself. */
export function Rendering({ block, overview, proposalID, changes, quiet, sound, fails }: Props) {
  const [width, setWidth] = useWidth<Width | number>();
  const sight = useSight();
  const [held, setHeld] = useState<Held>("");
  const [chosen, setChosen] = useState<string | null>(null);
  const pages = useMemo(() => {
    const states = standing(overview.blocks.find((b) => b.name === block.name)?.states ?? "");
    return overview.pages.filter((_, i) => states[i] !== "none" && states[i] !== "hidden");
  }, [overview, block.name]);
  const page =
    chosen !== null && (chosen === alone || pages.some((p) => p.path === chosen))
      ? chosen
      : pages.length === 0
        ? alone
        : (pages.find((p) => p.path !== overview.home)?.path ?? overview.home);
  const shown = useQuiet(proposalID, quiet); // the wall comes first
  const tried = useQuiet(changes, quiet && sound);
  const { data } = useReference();
  const sample = data?.entries.find((e) => e.name === block.name)?.sample.replaceAll("…", "Text");
  const [call, setCall] = useState<string | null>(null); // with other values than the sample
  const [form, setForm] = useState(false);
  const by = page === alone ? (call ?? sample ?? "") : "";
  const sampled = useTry(by, overview, tried);
  const url =
    page !== alone
      ? previewOf(overview, page, shown)
      : sampled.url && `${sampled.url}?shelf-alone=${block.name}`;
  const { fault, faults } = useFaults(url);
  useEffect(() => fails?.(faults), [fails, faults]);
  const light = useMemo(() => ({ block: block.name, scroll: true }), [block.name]);
  return (
    <div className={sight.panel}>
      <div className="bar rendering-bar">
        <AnyWidth width={width} set={setWidth} />
        <SightBar
          sight={sight}
          url={url}
          live={page === alone ? "" : `${overview.site_origin}${page}`}
        />
        <Choice label="State it is held in" value={held} choose={setHeld} options={heldAs} />
        {page === alone && block.fields.length > 0 && (
          <Button size="small" aria-expanded={form} onClick={() => setForm(!form)}>
            Values
          </Button>
        )}
        <PagePick
          label="Page of the rendering"
          page={page}
          choose={setChosen}
          pages={pages}
          also={byItself}
        />
      </div>
      {page === alone && form && (
        <div className="play-values">
          <Suspense>
            <CallPanel text={by} at={3} change={setCall} close={() => setForm(false)} />
          </Suspense>
          {call !== null && (
            <Button size="small" onClick={() => setCall(null)}>
              As its sample again
            </Button>
          )}
        </div>
      )}
      {page === alone && sampled.problem ? (
        <NotShown what={call === null ? "Its sample" : "It"} problem={sampled.problem} />
      ) : (
        <Live
          url={url}
          width={width}
          zoom={sight.zoom}
          title={page === alone ? `${block.title} by itself` : `${block.title} on ${page}`}
          light={page === alone ? unlit(block.name) : light}
          fault={fault}
          held={held}
        />
      )}
      <Faults faults={faults} />
    </div>
  );
}

const lights = new Map<string, { block: string; unlit: boolean }>();

/** One light for each block, which stays the same: it says what is held, and lights nothing. */
function unlit(block: string) {
  const light = lights.get(block) ?? { block, unlit: true };
  lights.set(block, light);
  return light;
}

const heldAs: readonly [Held, string][] = [
  ["", "At rest"],
  ["hover", "Under the pointer"],
  ["focus", "Focused"],
  ["active", "Pressed"],
  ["open", "Opened"],
];
const byItself = [{ path: alone, title: "by itself" }];
