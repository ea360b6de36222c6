import { Tabs } from "../Tabs";
import type { Width } from "./Live";

/** The widths at which a rendering can be looked at. */
export function WidthTabs({ width, set }: { width: Width; set: (width: Width) => void }) {
  return (
    <Tabs
      label="Width"
      className=""
      value={width}
      choose={set}
      tabs={[
        ["desk", "Desk"],
        ["tablet", "Tablet"],
        ["phone", "Phone"],
      ]}
    />
  );
}
