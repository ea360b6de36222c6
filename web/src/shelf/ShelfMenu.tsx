import Check from "@mui/icons-material/Check";
import Tune from "@mui/icons-material/Tune";
import IconButton from "@mui/material/IconButton";
import ListItemIcon from "@mui/material/ListItemIcon";
import Menu from "@mui/material/Menu";
import MenuItem from "@mui/material/MenuItem";
import Tooltip from "@mui/material/Tooltip";
import { useState } from "react";
import type { By, Kept } from "./order";

const ways: [By, string][] = [
  ["title", "By title"],
  ["use", "Most used first"],
  ["change", "Last edited first"],
];

/** How the shelf is sorted and shown. */
export function ShelfMenu({
  kept,
  set,
  categories,
}: {
  kept: Kept;
  set: (part: Partial<Kept>) => void;
  categories: string[];
}) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const choose = (part: Partial<Kept>) => {
    set(part);
    setAnchor(null);
  };
  const folded = categories.length > 0 && categories.every((c) => kept.folded.includes(c));
  return (
    <>
      <Tooltip title="Order of the shelf">
        <IconButton
          size="small"
          aria-label="Order of the shelf"
          aria-haspopup="menu"
          aria-expanded={anchor !== null}
          onClick={(e) => setAnchor(e.currentTarget)}
        >
          <Tune fontSize="small" />
        </IconButton>
      </Tooltip>
      {anchor && (
        <Menu anchorEl={anchor} open onClose={() => setAnchor(null)}>
          {ways.map(([by, words]) => (
            <MenuItem
              key={by}
              dense
              role="menuitemradio"
              aria-checked={kept.by === by}
              onClick={() => choose({ by })}
            >
              <ListItemIcon>{kept.by === by && <Check fontSize="small" />}</ListItemIcon>
              {words}
            </MenuItem>
          ))}
          <MenuItem
            dense
            divider
            role="menuitemcheckbox"
            aria-checked={kept.pictures}
            onClick={() => choose({ pictures: !kept.pictures })}
          >
            <ListItemIcon>{kept.pictures && <Check fontSize="small" />}</ListItemIcon>
            Pictures
          </MenuItem>
          <MenuItem dense onClick={() => choose({ folded: folded ? [] : categories })}>
            <ListItemIcon />
            {folded ? "Open all categories" : "Fold all categories"}
          </MenuItem>
        </Menu>
      )}
    </>
  );
}
