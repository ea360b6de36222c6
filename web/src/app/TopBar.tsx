import DarkMode from "@mui/icons-material/DarkModeOutlined";
import ExpandMore from "@mui/icons-material/ExpandMore";
import HelpOutline from "@mui/icons-material/HelpOutlineOutlined";
import Keyboard from "@mui/icons-material/KeyboardOutlined";
import LightMode from "@mui/icons-material/LightModeOutlined";
import Redo from "@mui/icons-material/Redo";
import Search from "@mui/icons-material/Search";
import Undo from "@mui/icons-material/Undo";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import Menu from "@mui/material/Menu";
import MenuItem from "@mui/material/MenuItem";
import Tooltip from "@mui/material/Tooltip";
import useMediaQuery from "@mui/material/useMediaQuery";
import { memo, useState } from "react";
import { Link, NavLink, useLocation } from "react-router";
import type { Overview } from "../api/client";
import { Brand } from "../shared/Brand";
import { useScheme } from "../shared/scheme";

interface Props {
  overview: Overview;
  find: () => void;
  keys: () => void;
  help: () => void;
  helping: boolean;
  undo: () => void;
  redo: () => void;
  /** Opens the shelf, where there is no room for it to stand open. */
  shelf: (() => void) | undefined;
}

interface PlaceLink {
  to: string;
  name: string;
  current: boolean;
}

interface Command {
  name: string;
  act: () => void;
  off?: boolean;
}

/** The site, its places, the state of the draft, and what works everywhere. */
export const TopBar = memo(function TopBar(props: Props) {
  const { overview, find, keys, help, helping, undo, redo, shelf } = props;
  const { dark, toggle } = useScheme();
  const roomy = useMediaQuery("(min-width: 1180px)", { noSsr: true });
  const narrow = useMediaQuery("(max-width: 699px)", { noSsr: true });
  const places = usePlaces(overview);
  const at = `/${overview.name}`;
  return (
    <header>
      {shelf && (
        <Button variant="outlined" color="secondary" onClick={shelf}>
          Shelf
        </Button>
      )}
      {!narrow && <Brand to={at} bare={!roomy} />}
      <Link
        className="site-name"
        to="/?all"
        dir="auto"
        title={overview.title}
        aria-label={`${overview.title}: all sites`}
      >
        {overview.title}
      </Link>
      {roomy ? (
        <nav className="places" aria-label="Places">
          {places.map((p) => (
            <Link key={p.name} to={p.to} aria-current={p.current ? "page" : undefined}>
              {p.name}
            </Link>
          ))}
        </nav>
      ) : (
        <PlacesMenu
          places={places}
          more={
            narrow
              ? [
                  {
                    name: `Undo${overview.undo && `: ${overview.undo}`}`,
                    act: undo,
                    off: !overview.undo,
                  },
                  {
                    name: `Redo${overview.redo && `: ${overview.redo}`}`,
                    act: redo,
                    off: !overview.redo,
                  },
                  { name: "Help", act: help },
                  { name: "Keyboard", act: keys },
                  { name: dark ? "Light scheme" : "Dark scheme", act: toggle },
                ]
              : []
          }
        />
      )}
      {roomy ? (
        <button type="button" className="find-box" onClick={find}>
          <span>Find anything</span>
          <kbd>Ctrl K</kbd>
        </button>
      ) : (
        <Tooltip title="Find anything">
          <IconButton size="small" aria-label="Find anything" onClick={find}>
            <Search fontSize="small" />
          </IconButton>
        </Tooltip>
      )}
      <div className="draft-state">
        <b>
          {overview.edits} {overview.edits === 1 ? "edit" : "edits"}
        </b>{" "}
        <span className="long">
          waiting
          <br />
          {overview.differ} {overview.differ === 1 ? "page differs" : "pages differ"} from live
        </span>
      </div>
      <div className="steps">
        {!narrow && (
          <>
            <Tooltip title={overview.undo ? `Undo: ${overview.undo}` : "Nothing to undo"}>
              <span>
                <IconButton size="small" aria-label="Undo" disabled={!overview.undo} onClick={undo}>
                  <Undo fontSize="small" />
                </IconButton>
              </span>
            </Tooltip>
            <Tooltip title={overview.redo ? `Redo: ${overview.redo}` : "Nothing to redo"}>
              <span>
                <IconButton size="small" aria-label="Redo" disabled={!overview.redo} onClick={redo}>
                  <Redo fontSize="small" />
                </IconButton>
              </span>
            </Tooltip>
            <Tooltip title="Help on this place (F1)">
              <IconButton
                id="help"
                size="small"
                aria-label="Help on this place"
                aria-expanded={helping}
                onClick={help}
              >
                <HelpOutline fontSize="small" />
              </IconButton>
            </Tooltip>
            <Tooltip title="Keyboard">
              <IconButton size="small" aria-label="Keyboard" onClick={keys}>
                <Keyboard fontSize="small" />
              </IconButton>
            </Tooltip>
            <Tooltip title={dark ? "Light" : "Dark"}>
              <IconButton
                size="small"
                aria-label={dark ? "Light scheme" : "Dark scheme"}
                onClick={toggle}
              >
                {dark ? <LightMode fontSize="small" /> : <DarkMode fontSize="small" />}
              </IconButton>
            </Tooltip>
          </>
        )}
      </div>
      <Button component={NavLink} to={`${at}/review`} variant="outlined" color="secondary">
        Review
      </Button>
    </header>
  );
});

function usePlaces(overview: Overview): PlaceLink[] {
  const at = `/${overview.name}`;
  const { pathname } = useLocation();
  const first = overview.blocks.find((b) => b.name === "footer") ?? overview.blocks[0];
  const checks = overview.checked ? (overview.findings ? ` ${overview.findings}` : "") : " …";
  const links: [path: string, name: string, to?: string][] = [
    ["blocks", "Blocks", first ? `${at}/blocks/${first.name}` : at],
    ["pages", "Pages"],
    ["rules", "Rules"],
    ["layouts", "Layouts"],
    ["menus", "Menus"],
    ["files", "Files"],
    ["site", "Site"],
    ["reference", "Reference"],
    ["checks", `Checks${checks}`],
  ];
  return links.map(([path, name, to = `${at}/${path}`]) => ({
    to,
    name,
    current: pathname === `${at}/${path}` || pathname.startsWith(`${at}/${path}/`),
  }));
}

/** The places where there is no room for them side by side; with them what the narrowest bar
 *  leaves out. */
function PlacesMenu({ places, more }: { places: PlaceLink[]; more: Command[] }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const close = () => setAnchor(null);
  const here = places.find((p) => p.current)?.name ?? "Places";
  return (
    <nav aria-label="Places">
      <Button
        color="secondary"
        className="places-menu"
        endIcon={<ExpandMore />}
        aria-haspopup="menu"
        aria-expanded={anchor !== null}
        aria-label={`Places: ${here}`}
        onClick={(e) => setAnchor(e.currentTarget)}
      >
        {here}
      </Button>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={close}>
        {places.map((p) => (
          <MenuItem
            key={p.name}
            component={Link}
            to={p.to}
            selected={p.current}
            aria-current={p.current ? "page" : undefined}
            onClick={close}
          >
            {p.name}
          </MenuItem>
        ))}
        {more.map((m, i) => (
          <MenuItem
            key={m.name}
            className={i === 0 ? "menu-break" : ""}
            disabled={m.off ?? false}
            onClick={() => {
              close();
              m.act();
            }}
          >
            {m.name}
          </MenuItem>
        ))}
      </Menu>
    </nav>
  );
}
