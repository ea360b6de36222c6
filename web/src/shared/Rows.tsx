import { useVirtualizer } from "@tanstack/react-virtual";
import { useRef, type ReactNode } from "react";
import { usePrinting } from "./printing";

/** A list of any length: only the rows in view are drawn; on paper, all. */
export function Rows<T>({
  items,
  keyOf,
  row,
  label,
  height = 32,
}: {
  items: T[];
  keyOf: (item: T) => string;
  row: (item: T) => ReactNode;
  label: string;
  height?: number;
}) {
  const box = useRef<HTMLDivElement>(null);
  const printing = usePrinting();
  const list = useVirtualizer({
    count: items.length,
    getScrollElement: () => box.current,
    estimateSize: () => height,
    overscan: 12,
    getItemKey: (i) => (items[i] ? keyOf(items[i]) : i),
  });
  if (printing)
    return (
      <div className="scroll" ref={box}>
        <ul className="rows-list">
          {items.map((item) => (
            <li key={keyOf(item)}>{row(item)}</li>
          ))}
        </ul>
      </div>
    );
  return (
    <div className="scroll" ref={box} tabIndex={0} role="region" aria-label={label}>
      <ul className="rows-list" style={{ height: list.getTotalSize() }}>
        {list.getVirtualItems().map((v) => {
          const item = items[v.index];
          return (
            item && (
              <li
                key={v.key}
                data-index={v.index}
                ref={list.measureElement}
                style={{ top: v.start, minHeight: height }}
              >
                {row(item)}
              </li>
            )
          );
        })}
      </ul>
    </div>
  );
}
