import { useCallback, useMemo, useState } from "react";
import { Link } from "react-router";
import { useSite } from "../../api/queries";
import type { Fault } from "./heard";

/** What fails in the rendering at an address, each once, with the placements at which it does. */
export function useFaults(url: string) {
  const [told, setTold] = useState<{ url: string; faults: Fault[] }[]>([]);
  const fault = useCallback((f: Fault, at: string) => {
    setTold((list) => {
      const others = list.filter((t) => t.url !== at).slice(-1); // the one behind it is still seen
      const mine = list.find((t) => t.url === at)?.faults ?? [];
      return [...others, { url: at, faults: [...mine, f].slice(0, 20) }];
    });
  }, []);
  const faults = useMemo(() => told.find((t) => t.url === url)?.faults ?? [], [told, url]);
  return { fault, faults };
}

/** Behaviours that fail in a rendering: which, where, and at which placements. */
export function Faults({ faults }: { faults: Fault[] }) {
  const site = useSite();
  const once = new Map<string, Fault & { at: string[] }>();
  for (const f of faults) {
    const key = `${f.block} ${f.line} ${f.column} ${f.message}`;
    const known = once.get(key) ?? { ...f, at: [] };
    once.set(key, { ...known, at: f.address ? [...known.at, f.address] : known.at });
  }
  if (once.size === 0) return null;
  return (
    <ul className="faults" aria-label="What fails here" role="status">
      {[...once].map(([key, f]) => (
        <li key={key}>
          {f.block ? (
            <Link to={`/${site}/blocks/${f.block}?part=behaviour&line=${f.line}`}>
              {f.block}.js, line {f.line}
            </Link>
          ) : (
            <b>an older behaviour, line {f.line}</b>
          )}
          : {f.message}{" "}
          {f.at.length > 0 && (
            <span className="soft">
              at <code>{f.at.slice(0, 3).join(", ")}</code>
              {f.at.length > 3 ? ` and ${f.at.length - 3} more` : ""}
            </span>
          )}
        </li>
      ))}
    </ul>
  );
}
