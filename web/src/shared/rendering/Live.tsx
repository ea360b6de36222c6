import { useEffect, useLayoutEffect, useRef, useState } from "react";
import { heard, type Fault } from "./heard";
import { aside, scaleOf, sideways, type Zoom } from "./zoom";

export type Width = "desk" | "tablet" | "phone";
export const widths: Record<Width, number> = { desk: 1280, tablet: 820, phone: 390 };

/** A state in which a block is held. */
export type Held = "" | "hover" | "focus" | "active" | "open";

export interface Light {
  block?: string;
  address?: string;
  /** Bytes of the page's document: what stands there in its own text. */
  own?: readonly [number, number];
  scroll?: boolean;
  /** It says what is meant, and lights nothing up. */
  unlit?: boolean;
}

/** What was pointed at in a rendering: the placements around it from the innermost
 *  on, with the block of each. */
export interface Pointed {
  addresses: string[];
  blocks: string[];
}

/** An element of the page's own text that was pointed at: the offset in bytes at
 *  which it begins in the page's document. more adds it to those before. */
export interface OwnElement {
  at: number;
  tag: string;
  more: boolean;
}

/** How a page stands in its frame: how far it is scrolled, and where what is lit is from the frame's top. */
interface Stand {
  top: number;
  lit: number | null;
}

/** A page in a sandboxed frame, at the width of a device, as large as it is or scaled. A new
 *  version loads behind the old one and takes its place when it is ready, in a frame
 *  of its own: one that is led elsewhere while it loads can stay where it was. */
export function Live({
  url,
  width,
  title,
  light,
  follow,
  point,
  own,
  fault,
  held = "",
  zoom = "fit",
}: {
  url: string;
  width: Width | number;
  title: string;
  light: Light;
  follow?: (href: string) => void;
  point?: (p: Pointed) => void;
  own?: (e: OwnElement) => void;
  /** Told of each behaviour that fails in what is shown. */
  fault?: (f: Fault, url: string) => void;
  held?: Held;
  zoom?: Zoom;
}) {
  const box = useRef<HTMLDivElement>(null);
  const entered = useRef(false); // by a key, so that a key comes back
  const frames = useRef<(HTMLIFrameElement | null)[]>([null, null]);
  const [size, setSize] = useState({ w: 0, h: 0 });
  const [slots, setSlots] = useState<{
    urls: [string, string];
    ready: [boolean, boolean];
    front: 0 | 1;
  }>({ urls: [url, ""], ready: [false, false], front: 0 });
  // How far each page is scrolled, and where in it what is lit stands, once it has told.
  const stands = useRef<[Stand | null, Stand | null]>([null, null]);
  const signs = useRef<[number[], number[]]>([[], []]); // what each frame shows, by its elements
  const again = useRef<[boolean, boolean]>([false, false]); // it shows what was in sight already
  const [spot, setSpot] = useState<{ left: number; width: number } | null>(null);
  const [begun, setBegun] = useState(false); // a page is another document to load: what stands around it comes first
  useEffect(() => {
    const timer = setTimeout(() => setBegun(true), 40);
    return () => clearTimeout(timer);
  }, []);

  const back = slots.front === 0 ? 1 : 0;
  if (slots.urls[slots.front] !== url) {
    if (slots.urls[back] !== url)
      setSlots({
        ...slots,
        urls: put(slots.urls, back, url),
        ready: put(slots.ready, back, false),
      });
    else if (slots.ready[back]) setSlots({ ...slots, front: back }); // as it was before
  }

  useEffect(() => {
    const el = box.current;
    if (!el) return;
    const observer = new ResizeObserver(() => setSize({ w: el.clientWidth, h: el.clientHeight }));
    observer.observe(el);
    return () => observer.disconnect();
  }, []);

  const w = typeof width === "number" ? width : widths[width];
  const scale = scaleOf(zoom, w, size.w);
  const wide = w * scale > size.w + 1;
  // At once, so that a frame that is quick to be ready finds who waits for it.
  useLayoutEffect(() => {
    const hear = (e: MessageEvent<unknown>) => {
      const i = frames.current.findIndex((f) => f !== null && f.contentWindow === e.source);
      const m = i < 0 ? null : heard(e.data);
      if (m === null) return;
      const frame = frames.current[i]?.contentWindow;
      switch (m.shelf) {
        case "ready": {
          const { front } = slots;
          const stood = stands.current[front];
          const kept =
            i !== front &&
            slots.ready[front] &&
            // One that never came to what is lit is no page to stand like.
            (stood !== null || !light.scroll) &&
            pageOf(slots.urls[0]) === pageOf(slots.urls[1]);
          stands.current[i === 0 ? 0 : 1] = null;
          again.current[i === 0 ? 0 : 1] = kept;
          frame?.postMessage(
            {
              shelf: "light",
              ...(light.unlit ? {} : light),
              scroll: light.scroll && !kept,
            },
            "*",
          );
          if (kept)
            frame?.postMessage(
              {
                shelf: "scroll",
                top: stood?.top ?? 0,
                lit: stood?.lit ?? null,
                signs: signs.current[front],
              },
              "*",
            );
          frame?.postMessage({ shelf: "hold", state: held, block: light.block }, "*");
          setSlots((s) => ({
            ...s,
            ready: put(s.ready, i, true),
            front: s.urls[i] === url ? (i as 0 | 1) : s.front,
          }));
          break;
        }
        case "scrolled":
          stands.current[i === 0 ? 0 : 1] = { top: m.top, lit: m.lit };
          break;
        case "sketch":
          signs.current[i === 0 ? 0 : 1] = m.signs;
          break;
        case "lit":
          if (!again.current[i === 0 ? 0 : 1])
            setSpot((s) => (s?.left === m.left && s.width === m.width ? s : m));
          again.current[i === 0 ? 0 : 1] = false;
          break;
        case "changed":
          if (box.current && aside(m, scale, size.w, box.current.scrollLeft))
            box.current.scrollLeft = sideways(m, scale, size.w, w);
          break;
        case "key":
          if (m.key === "Escape" && entered.current) {
            entered.current = false;
            box.current?.focus();
            break;
          }
          dispatchEvent(new KeyboardEvent("keydown", { key: m.key, ctrlKey: m.ctrl }));
          break;
        case "point":
          point?.({ addresses: m.addresses, blocks: m.blocks });
          break;
        case "own":
          own?.({ at: m.at, tag: m.tag, more: m.more });
          break;
        case "fault":
          fault?.(
            {
              block: m.block,
              line: m.line,
              column: m.column,
              message: m.message,
              address: m.address,
            },
            slots.urls[i] ?? "",
          );
          break;
        case "follow":
          follow?.(m.href);
          break;
      }
    };
    addEventListener("message", hear);
    return () => removeEventListener("message", hear);
  }, [light, url, slots, follow, point, own, fault, held, scale, size.w, w]);

  useEffect(() => {
    for (const f of frames.current)
      f?.contentWindow?.postMessage({ shelf: "light", ...(light.unlit ? {} : light) }, "*");
  }, [light]);
  useEffect(() => {
    for (const f of frames.current)
      f?.contentWindow?.postMessage({ shelf: "hold", state: held, block: light.block }, "*");
  }, [held, light.block]);

  // What is in question is brought into sight where the page is wider than its place.
  useLayoutEffect(() => {
    if (box.current && spot && wide) box.current.scrollLeft = sideways(spot, scale, size.w, w);
  }, [spot, wide, scale, size.w, w]);
  return (
    <div
      className={wide ? "live wide" : "live"}
      ref={box}
      role="group"
      aria-label={title}
      aria-description="Enter goes into the page, Escape comes back."
      tabIndex={0}
      onFocus={(e) => {
        if (e.target === e.currentTarget) entered.current = false;
      }}
      onKeyDown={(e) => {
        if (e.key !== "Enter" || e.target !== e.currentTarget) return;
        entered.current = true;
        frames.current[slots.front]?.focus();
      }}
      data-page={pageOf(url)}
    >
      {begun &&
        ([0, 1] as const).map(
          (i) =>
            slots.urls[i] !== "" && (
              <iframe
                key={slots.urls[i]}
                ref={(el) => {
                  frames.current[i] = el;
                }}
                src={slots.urls[i]}
                title={i === slots.front ? title : "next version"}
                sandbox="allow-scripts"
                className={i === slots.front ? "front" : "waiting"}
                aria-hidden={i !== slots.front}
                aria-busy={!slots.ready[i]}
                tabIndex={-1} // one stop for the whole page, not one for each of its links
                style={{
                  width: w,
                  height: size.h / scale,
                  transform: wide ? `scale(${scale})` : `scale(${scale}) translateX(-50%)`,
                }}
              />
            ),
        )}
    </div>
  );
}

function put<T>(pair: [T, T], at: number, value: T): [T, T] {
  return at === 0 ? [value, pair[1]] : [pair[0], value];
}

/** The page's address in the address of a preview. */
export function pageOf(url: string): string {
  return url
    .replace(/^https?:\/\/[^/]+/, "")
    .replace(/^\/_(draft|live|edit\/[^/]+)/, "")
    .replace(/\?.*$/, "");
}
