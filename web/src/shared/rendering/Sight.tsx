import CloseFullscreen from "@mui/icons-material/CloseFullscreen";
import OpenInFull from "@mui/icons-material/OpenInFull";
import OpenInNew from "@mui/icons-material/OpenInNew";
import IconButton from "@mui/material/IconButton";
import ToggleButton from "@mui/material/ToggleButton";
import ToggleButtonGroup from "@mui/material/ToggleButtonGroup";
import Tooltip from "@mui/material/Tooltip";
import { useCallback, useEffect, useState } from "react";
import { zoomOf, type Zoom } from "./zoom";

/** How a rendering is looked at: its size, kept in the browser, and whether it has the whole
 *  window. */
export function useSight() {
  const [zoom, put] = useState<Zoom>(() => zoomOf(localStorage.getItem("zoom")));
  const [whole, setWhole] = useState(false);
  const setZoom = useCallback((z: Zoom) => {
    localStorage.setItem("zoom", z);
    put(z);
  }, []);
  useEffect(() => {
    if (!whole) return;
    const key = (e: KeyboardEvent) => {
      if (e.key !== "Escape") return;
      e.stopPropagation();
      setWhole(false);
    };
    addEventListener("keydown", key, true);
    return () => removeEventListener("keydown", key, true);
  }, [whole]);
  return { zoom, setZoom, whole, setWhole, panel: whole ? "panel whole" : "panel" };
}

export type Sight = ReturnType<typeof useSight>;

/** The sizes, the whole window, and the ways to the page in a tab of its own: as it is shown here, and
 *  as it is published. */
export function SightBar({ sight, url, live }: { sight: Sight; url: string; live?: string }) {
  return (
    <span className="sight">
      <ToggleButtonGroup
        exclusive
        size="small"
        value={sight.zoom}
        aria-label="Size of the rendering"
        onChange={(_, z: Zoom | null) => z && sight.setZoom(z)}
      >
        <ToggleButton value="fit">Fit</ToggleButton>
        <ToggleButton value="100">100 %</ToggleButton>
        <ToggleButton value="200">200 %</ToggleButton>
      </ToggleButtonGroup>
      <Tooltip title={sight.whole ? "Back to its place" : "The whole window"}>
        <IconButton
          size="small"
          aria-label="The whole window"
          aria-pressed={sight.whole}
          onClick={() => sight.setWhole(!sight.whole)}
        >
          {sight.whole ? <CloseFullscreen fontSize="inherit" /> : <OpenInFull fontSize="inherit" />}
        </IconButton>
      </Tooltip>
      {url && (
        <Tooltip title="In a tab of its own">
          <IconButton
            size="small"
            component="a"
            href={url}
            target="_blank"
            rel="noreferrer"
            aria-label="Open in a tab of its own"
          >
            <OpenInNew fontSize="inherit" />
          </IconButton>
        </Tooltip>
      )}
      {live && (
        <a href={live} target="_blank" rel="noreferrer">
          live
        </a>
      )}
    </span>
  );
}
