import { useRef, useState } from "react";

/** How one leaves a cell that one writes into: down, right, left, or where one is. */
export type Leave = [row: number, col: number];

/** A cell while one writes into it. Enter and Tab keep what is written and go on, Escape does not. */
export function CellInput({
  label,
  text,
  keep,
  leave,
}: {
  label: string;
  text: string;
  keep: (text: string) => void;
  leave: (by: Leave) => void;
}) {
  const [written, setWritten] = useState(text);
  const left = useRef(false); // with a key: its going does not keep it again
  const end = (by: Leave, kept: boolean) => {
    left.current = true;
    if (kept) keep(written);
    leave(by);
  };
  return (
    <input
      autoFocus
      className="cell-typing"
      aria-label={label}
      value={written}
      onFocus={(e) => e.target.setSelectionRange(written.length, written.length)}
      onChange={(e) => setWritten(e.target.value)}
      onBlur={() => {
        if (!left.current) keep(written);
      }}
      onPaste={(e) => e.stopPropagation()}
      onClick={(e) => e.stopPropagation()}
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.nativeEvent.isComposing) return;
        const ways: Record<string, Leave> = {
          Enter: [e.shiftKey ? -1 : 1, 0],
          Tab: [0, e.shiftKey ? -1 : 1],
          Escape: [0, 0],
        };
        const by = ways[e.key];
        if (!by) return;
        e.preventDefault();
        end(by, e.key !== "Escape");
      }}
    />
  );
}
