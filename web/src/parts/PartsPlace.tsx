import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useMutation } from "@tanstack/react-query";
import { useCallback, useMemo, useRef, useState } from "react";
import { useSearchParams } from "react-router";
import type { Overview } from "../api/client";
import { handIn, useSites, useUnits } from "../api/parts";
import { useOverview } from "../api/queries";
import { IdleBar } from "../shared/EditBar";
import type { State } from "../shared/states";
import { useWallSubject, type WallSubject } from "../shared/wall/subject";
import { Arrivals } from "./Arrivals";
import { Choosing } from "./Choosing";
import { Libraries } from "./Libraries";
import { Taking } from "./Taking";

/** Taking parts of this site elsewhere, and bringing in those of others. */
export function PartsPlace() {
  const overview = useOverview();
  return overview.data ? <Sheet overview={overview.data} /> : null;
}

const zip = "a zip";

function Sheet({ overview }: { overview: Overview }) {
  const [params, setParams] = useSearchParams();
  const sites = useSites();
  const input = useRef<HTMLInputElement>(null);
  const [over, setOver] = useState(false);
  const from = params.get("from") ?? overview.name;
  const part = params.get("part") ?? "";
  const own = from === overview.name && !part;
  const said = useMemo(() => params.getAll("of"), [params]);
  // What is ticked is seen at once; the address follows.
  const [ticked, setTicked] = useState({ of: said, after: said });
  const of = ticked.after === said ? ticked.of : said;
  const units = useUnits(part ? "" : from);
  const choose = useCallback(
    (ids: string[]) => {
      setTicked({ of: ids, after: said });
      setParams(
        (p) => {
          p.delete("of");
          for (const id of ids) p.append("of", id);
          return p;
        },
        { replace: true },
      );
    },
    [setParams, said],
  );
  const source = (site: string) =>
    setParams(site === overview.name ? {} : { from: site }, { replace: false });
  const hand = useMutation({
    mutationFn: (file: Blob) => handIn(overview.name, file),
    onSuccess: (brought) =>
      setParams({ part: brought.part, ...(brought.name && { name: brought.name }) }),
  });
  const take = (list: FileList | null) => {
    const [file] = list ?? [];
    if (file) hand.mutate(file);
  };
  const idle = useMemo<WallSubject>(
    () => ({
      question: "shows",
      about: own ? "Choose what is taken" : "Choose what comes in",
      states: overview.pages.map((): State => "none"),
      against: "live",
    }),
    [overview.pages, own],
  );
  useWallSubject(idle);
  return (
    <>
      <div className="subject">
        <h1>Parts</h1>
        <span className="soft">of this site into another, or of another into this one</span>
      </div>
      {!(of.length > 0 && !own) && !part && (
        <IdleBar
          wrong={hand.error?.message ?? ""}
          words="A part is chosen with all that it needs: the blocks that it calls, styles, behaviours, files, menus, layouts, values."
        />
      )}
      <div
        className={over ? "halves over" : "halves"}
        onDragOver={(e) => {
          if (!e.dataTransfer.types.includes("Files")) return;
          e.preventDefault();
          setOver(true);
        }}
        onDragLeave={(e) => e.currentTarget === e.target && setOver(false)}
        onDrop={(e) => {
          e.preventDefault();
          setOver(false);
          take(e.dataTransfer.files);
        }}
      >
        <div className="panel">
          <div className="bar">
            <TextField
              select
              size="small"
              label="From"
              value={part ? zip : from}
              onChange={(e) => e.target.value !== zip && source(e.target.value)}
              sx={{ width: 260, my: "6px" }}
            >
              <MenuItem value={overview.name}>{overview.title} (this site)</MenuItem>
              {(sites.data ?? [])
                .filter((s) => s.name !== overview.name)
                .map((s) => (
                  <MenuItem key={s.name} value={s.name}>
                    {s.title}
                  </MenuItem>
                ))}
              {part && <MenuItem value={zip}>The zip that was handed in</MenuItem>}
            </TextField>
            <Button
              variant="outlined"
              color="secondary"
              sx={{ marginLeft: "auto" }}
              disabled={hand.isPending}
              onClick={() => input.current?.click()}
            >
              {hand.isPending ? "Reading the zip…" : "Bring a zip"}
            </Button>
            <input
              ref={input}
              type="file"
              accept=".zip"
              hidden
              aria-label="The zip of a part"
              onChange={(e) => {
                take(e.target.files);
                e.target.value = "";
              }}
            />
          </div>
          {part ? (
            <p className="empty">
              {params.get("name")
                ? `A part of ${params.get("name") ?? ""}.`
                : "A part that was handed in."}{" "}
              What of it comes in is decided beside.
            </p>
          ) : units.error ? (
            <p className="empty" role="alert">
              {units.error.message}
            </p>
          ) : (
            <Choosing units={units.data} chosen={of} choose={choose} />
          )}
        </div>
        {part || (!own && of.length > 0) ? (
          <Arrivals
            key={`${from} ${part}`}
            overview={overview}
            ask={part ? { part } : { from, of }}
            origin={sites.data?.find((s) => s.name === from)?.site_origin ?? ""}
            idle={idle}
            leave={() => setParams({})}
          />
        ) : own && of.length > 0 ? (
          <Taking site={overview.name} of={of} sites={sites.data ?? []} />
        ) : (
          <Libraries overview={overview} own={own} />
        )}
      </div>
    </>
  );
}
