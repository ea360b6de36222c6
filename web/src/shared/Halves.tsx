import { useRef, useState, type CSSProperties, type ReactNode } from "react";
import { moved, shareOf } from "./share";

/** Two panels beside one another, with a divider between them that one drags or moves by keys; where
 *  it stands is kept for each place. Where there is no room for two, they stand one above the
 *  other. */
export function Halves({
  place,
  usual = 50,
  children: [left, right],
}: {
  place: string;
  /** How much the left one has, in per cent, until that is chosen. */
  usual?: number;
  children: [ReactNode, ReactNode];
}) {
  const key = `divider-${place}`;
  const [share, setShare] = useState(() => shareOf(localStorage.getItem(key), usual));
  const [dragging, setDragging] = useState(false);
  const box = useRef<HTMLDivElement>(null);
  const put = (to: number) => {
    setShare(to);
    localStorage.setItem(key, String(to));
  };
  return (
    <div
      className={dragging ? "halves divided dragging" : "halves divided"}
      ref={box}
      style={{ "--left": `${share}fr`, "--right": `${100 - share}fr` } as CSSProperties}
    >
      {left}
      <div
        role="separator"
        aria-orientation="vertical"
        aria-label="Divider"
        aria-valuenow={share}
        aria-valuemin={20}
        aria-valuemax={80}
        tabIndex={0}
        className="divider"
        onPointerDown={(e) => {
          e.preventDefault(); // no text is selected on the way
          e.currentTarget.focus();
          const at = box.current?.getBoundingClientRect();
          if (!at) return;
          const move = (m: PointerEvent) => put(moved(((m.clientX - at.left) / at.width) * 100));
          const end = () => {
            removeEventListener("pointermove", move);
            setDragging(false);
          };
          setDragging(true);
          addEventListener("pointermove", move);
          addEventListener("pointerup", end, { once: true });
          addEventListener("pointercancel", end, { once: true });
        }}
        onDoubleClick={() => put(usual)}
        onKeyDown={(e) => {
          const by = { ArrowLeft: -5, ArrowRight: 5, Home: -100, End: 100 }[e.key];
          if (by === undefined) return;
          e.preventDefault();
          put(moved(share + by));
        }}
      />
      {right}
    </div>
  );
}
