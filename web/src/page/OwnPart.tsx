import More from "@mui/icons-material/MoreHoriz";
import IconButton from "@mui/material/IconButton";
import Menu from "@mui/material/Menu";
import MenuItem from "@mui/material/MenuItem";
import { useState } from "react";
import type { PagePart } from "../api/client";
import { actsOf, verbs } from "../shared/copies/acts";
import { standingWords, useStanding } from "../shared/copies/standings";
import { useRow } from "../shared/sorting";
import { excerptOf } from "./excerpt";
import type { Doing } from "./useDoing";

/** One thing of a page's own text in the outline: a call, a one-off copy, or text. */
export function OwnPart({
  part,
  title,
  hidden,
  lit,
  others,
  doing,
}: {
  part: PagePart;
  title: string;
  hidden: boolean;
  lit: boolean;
  others: string[];
  doing: Doing;
}) {
  const standing = useStanding(doing.doc, part.address);
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  const text = part.name === "";
  const wait = doing.settled ? "" : ", once this is saved";
  const named = text ? `text ${excerptOf(part.excerpt).slice(0, 24)}` : title;
  const { row, handle } = useRow(String(part.from), named, part.within);
  const choose = (act: () => void) => () => {
    setMenu(null);
    act();
  };
  return (
    <li
      {...row}
      data-part={part.from}
      className={`own-part${part.within ? " within" : ""}${hidden ? " hidden" : ""}${lit ? " lit" : ""}`}
    >
      {!part.within && handle}
      <button
        type="button"
        className="plain name"
        onClick={() => (text ? doing.light("") : doing.values(part))}
      >
        {text ? (
          <span className="excerpt">{excerptOf(part.excerpt)}</span>
        ) : (
          <>
            <b>{title}</b>{" "}
            <span className="soft">
              {hidden ? (
                "hidden here"
              ) : part.copy ? (
                <>
                  one-off copy
                  {standing && `, ${standingWords[standing]}`}
                </>
              ) : (
                <code>{part.excerpt.split("\n")[0]}</code>
              )}
            </span>
          </>
        )}
      </button>
      {!text && (
        <button
          type="button"
          className="plain word"
          onClick={() => doing.edit({ edit: hidden ? "show" : "hide", address: part.address })}
          aria-label={`${hidden ? "Show" : "Hide"} ${title}`}
        >
          {hidden ? "Show" : "Hide"}
        </button>
      )}
      <IconButton
        size="small"
        aria-label={`More for ${named}`}
        aria-haspopup="menu"
        onClick={(e) => setMenu(e.currentTarget)}
      >
        <More fontSize="small" />
      </IconButton>
      {menu && (
        <Menu anchorEl={menu} open onClose={() => setMenu(null)}>
          {others.map((r) => (
            <MenuItem
              key={r}
              onClick={choose(() =>
                doing.edit({ edit: "move", from: part.from, region: r, before: -1 }),
              )}
            >
              Move to {r}
            </MenuItem>
          ))}
          <MenuItem disabled={!doing.settled} onClick={choose(() => doing.send(part))}>
            Move to another page{wait}
          </MenuItem>
          {!text &&
            actsOf({ kind: part.copy ? "copy" : "linked", standing }).map((act) => (
              <MenuItem
                key={act}
                disabled={!doing.settled}
                onClick={choose(() => doing.act(act, part.address, title, part.name))}
              >
                {verbs[act](1)}
                {wait}
              </MenuItem>
            ))}
          <MenuItem onClick={choose(() => doing.edit({ edit: "take", from: part.from }))}>
            Take out
          </MenuItem>
        </Menu>
      )}
    </li>
  );
}
