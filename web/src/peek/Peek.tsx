import Button from "@mui/material/Button";
import { lazy, Suspense, useMemo, useState, type UIEvent } from "react";
import type { Effect } from "../api/client";
import { useComparison, useOverview } from "../api/queries";
import { effectWords, spotWords } from "./spotWords";
import { useWidth } from "../shared/rendering/WidthTabs";
import { Live, type Light, type Width } from "../shared/rendering/Live";
import { SightBar, useSight, type Sight } from "../shared/rendering/Sight";
import { LookBar } from "../shared/LookBar";
import { useLook } from "../api/look";
import { Tabs } from "../shared/Tabs";
import { stateOfEffect, wordFor, type Question } from "../shared/states";
import { Sign } from "../shared/wall/Sign";

const Diff = lazy(() => import("../shared/editor/Diff"));

interface Props {
  page: string;
  against: string;
  question: Question;
  place: string; // "3 of 41"
  step: (by: 1 | -1) => void;
  close: () => void;
  follow: (href: string) => void;
}

/** One page before and after, side by side: rendered or as source. */
export function Peek({ page, against, question, place, step, close, follow }: Props) {
  const sight = useSight();
  const [width, setWidth] = useWidth();
  const [as, setAs] = useState<"rendered" | "source">("rendered");
  const [look] = useLook();
  const { data, error } = useComparison(against, page, look);
  const first = data?.placements.find((p) => p.effect !== "same")?.address;
  const overview = useOverview().data;
  const titles = useMemo(
    () => new Map(overview?.blocks.map((b) => [b.name, b.title])),
    [overview?.blocks],
  );
  const light = useMemo<Light>(() => (first ? { address: first, scroll: true } : {}), [first]);
  return (
    <section className="peek" aria-label="Before and after">
      <div className="subject">
        <h1 dir="auto">{data?.title ?? page}</h1>
        <code>{page}</code>
        <span className="soft place">{place}</span>
        <div className="peek-acts">
          <Button
            variant="outlined"
            color="secondary"
            sx={{ minWidth: 32 }}
            onClick={() => step(-1)}
            aria-label="Previous page"
            title="["
          >
            ‹
          </Button>
          <Button
            variant="outlined"
            color="secondary"
            sx={{ minWidth: 32 }}
            onClick={() => step(1)}
            aria-label="Next page"
            title="]"
          >
            ›
          </Button>
          <Button variant="contained" color="secondary" onClick={close}>
            Close <kbd style={{ marginLeft: 6 }}>Esc</kbd>
          </Button>
        </div>
      </div>
      <div className="peek-look">
        <div className="effects" role="status" tabIndex={0} aria-label="What changes on it">
          {data && (
            <span className="effect">
              <Sign state={stateOfEffect[data.effect]} />
              <b>{effectWord(data.effect, question)}</b>
            </span>
          )}
          {data?.placements.map((p) => (
            <span key={p.address} className="soft">
              <span title={p.address}>
                <b>{titles.get(p.block) ?? p.block}</b> {effectWords[p.effect]}{" "}
                {spotWords(p.address, titles)}
              </span>
              {p.holds &&
                `: ${p.holds.map((h) => `${h.field}: ${h.text || "nothing"}`).join(", ")}`}
            </span>
          ))}
          {data?.breaks.map((b) => (
            <span key={b.address + b.code} style={{ color: "var(--crimson)" }}>
              {b.message}
            </span>
          ))}
        </div>
        <Tabs
          label="As"
          tabs={[
            ["rendered", "Rendered"],
            ["source", "Source difference"],
          ]}
          value={as}
          choose={setAs}
        />
        {as === "rendered" && (
          <Tabs
            label="Width"
            tabs={[
              ["desk", "Desk"],
              ["tablet", "Tablet"],
              ["phone", "Phone"],
            ]}
            value={width}
            choose={setWidth}
          />
        )}
        {as === "rendered" && <SightBar sight={sight} url="" />}
        <LookBar />
      </div>
      {error && (
        <p className="empty" role="alert">
          {error.message}
        </p>
      )}
      {data &&
        (as === "rendered" ? (
          <div
            className={sight.whole ? "peek-sides whole" : "peek-sides"}
            onScrollCapture={scrollTogether}
          >
            <Side
              name={question === "differs" ? "Live" : "Before"}
              url={data.before_url}
              title="before"
              width={width}
              light={light}
              follow={follow}
              sight={sight}
            />
            <Side
              name={question === "differs" ? "Draft" : "After"}
              url={data.after_url}
              title="after"
              width={width}
              light={light}
              follow={follow}
              sight={sight}
            />
          </div>
        ) : (
          <div className="peek-diff">
            {data.before === data.after ? (
              <p className="empty">Not one byte of this page differs.</p>
            ) : (
              <Suspense fallback={<p className="empty">Comparing…</p>}>
                <Diff before={data.before} after={data.after} label={data.title} />
              </Suspense>
            )}
          </div>
        ))}
    </section>
  );
}

/** Scrolls the other side as far sideways as the one that is scrolled: both show the same part. */
function scrollTogether({ target, currentTarget }: UIEvent<HTMLElement>) {
  if (!(target instanceof HTMLElement) || !target.classList.contains("live")) return;
  for (const other of currentTarget.querySelectorAll(".live"))
    if (other.scrollLeft !== target.scrollLeft) other.scrollLeft = target.scrollLeft;
}

function effectWord(effect: Effect, question: Question): string {
  if (effect === "added" || effect === "removed") return effect;
  return wordFor(question === "stands" ? "would" : question, stateOfEffect[effect]);
}

function Side({
  name,
  url,
  title,
  width,
  light,
  follow,
  sight,
}: {
  name: string;
  url: string;
  title: string;
  width: Width;
  light: Light;
  follow: (href: string) => void;
  sight: Sight;
}) {
  return (
    <div className="panel">
      <div className="bar">
        <b style={{ color: "var(--ink)" }}>{name}</b>
        {url && (
          <a className="right" href={url} target="_blank" rel="noreferrer">
            in a tab of its own
          </a>
        )}
      </div>
      {url ? (
        <Live
          url={url}
          width={width}
          zoom={sight.zoom}
          title={`${name}: ${title}`}
          light={light}
          follow={follow}
        />
      ) : (
        <p className="empty">There is no such page on this side.</p>
      )}
    </div>
  );
}
