import Desk from "@mui/icons-material/DesktopWindowsOutlined";
import Phone from "@mui/icons-material/SmartphoneOutlined";
import Tablet from "@mui/icons-material/TabletOutlined";
import ToggleButton from "@mui/material/ToggleButton";
import ToggleButtonGroup from "@mui/material/ToggleButtonGroup";
import Tooltip from "@mui/material/Tooltip";
import { useState } from "react";
import { widths, type Width } from "./Live";

const named = [
  ["desk", "Desk", Desk],
  ["tablet", "Tablet", Tablet],
  ["phone", "Phone", Phone],
] as const;

/** The width at which a rendering is seen first: that of a desk, but on a phone that of one. */
export const useWidth = <W extends Width | number = Width>() =>
  useState<W | Width>(() => (innerWidth < 500 ? "phone" : "desk"));

/** The widths at which a rendering can be looked at. */
export function WidthTabs({ width, set }: { width: Width | ""; set: (width: Width) => void }) {
  return (
    <ToggleButtonGroup
      exclusive
      size="small"
      className="sight"
      value={width}
      aria-label="Width"
      onChange={(_, w: Width | null) => w && set(w)}
    >
      {named.map(([w, name, Icon]) => (
        <ToggleButton key={w} value={w} aria-label={name}>
          <Tooltip title={`${name}, ${widths[w]} px`}>
            <Icon sx={{ fontSize: 15 }} />
          </Tooltip>
        </ToggleButton>
      ))}
    </ToggleButtonGroup>
  );
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
  return (
    <>
      <WidthTabs width={named.find(([w]) => widths[w] === px)?.[0] ?? ""} set={set} />
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
