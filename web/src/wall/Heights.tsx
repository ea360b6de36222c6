import ToggleButton from "@mui/material/ToggleButton";
import ToggleButtonGroup from "@mui/material/ToggleButtonGroup";
import Tooltip from "@mui/material/Tooltip";
import { sizes, type Size } from "../shared/wall/size";

const names: Record<Size, string> = {
  line: "Wall as a line",
  courses: "Wall in courses",
  tall: "Tall wall",
};

/** The three heights of the wall, each drawn as so many courses of bricks. */
export function Heights({ size, choose }: { size: Size; choose: (size: Size) => void }) {
  return (
    <ToggleButtonGroup
      exclusive
      size="small"
      value={size}
      aria-label="Height of the wall"
      className="heights"
      onChange={(_, next: Size | null) => next && choose(next)}
    >
      {sizes.map((s, i) => (
        <ToggleButton key={s} value={s} aria-label={names[s]}>
          <Tooltip title={names[s]}>
            <svg width="16" height="14" viewBox="0 0 16 14" aria-hidden>
              {[12, 9, 6, 3, 0].slice(0, 2 * i + 1).map((y, n) => (
                <path
                  key={y}
                  d={n % 2 ? `M0 ${y}h4v2h-4zM6 ${y}h10v2h-10z` : `M0 ${y}h7v2h-7zM9 ${y}h7v2h-7z`}
                />
              ))}
            </svg>
          </Tooltip>
        </ToggleButton>
      ))}
    </ToggleButtonGroup>
  );
}
