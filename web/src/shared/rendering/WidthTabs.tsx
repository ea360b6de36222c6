import { Tabs } from "../Tabs";
import { widths, type Width } from "./Live";

const tabs = [
  ["desk", "Desk"],
  ["tablet", "Tablet"],
  ["phone", "Phone"],
] as const;

/** The widths at which a rendering can be looked at. */
export function WidthTabs({ width, set }: { width: Width; set: (width: Width) => void }) {
  return <Tabs label="Width" className="" value={width} choose={set} tabs={tabs} />;
}

const least = 200;
const most = 2000;

/** The same, and any other, in pixels. */
export function AnyWidth({
  width,
  set,
}: {
  width: Width | number;
  set: (width: Width | number) => void;
}) {
  const px = typeof width === "number" ? width : widths[width];
  const named = tabs.find(([w]) => widths[w] === px)?.[0];
  return (
    <>
      <Tabs<Width | "">
        label="Width"
        className=""
        value={named ?? ""}
        choose={(w) => w && set(w)}
        tabs={tabs}
      />
      <input
        type="number"
        className="px"
        aria-label="Width in pixels"
        min={least}
        max={most}
        step={10}
        value={px}
        onChange={(e) => {
          const w = Number(e.target.value);
          if (w >= least && w <= most) set(w);
        }}
      />
    </>
  );
}
