import More from "@mui/icons-material/MoreHoriz";
import IconButton from "@mui/material/IconButton";
import Menu from "@mui/material/Menu";
import MenuItem from "@mui/material/MenuItem";
import { useState } from "react";
import type { Candidate } from "../api/client";
import { actsOf, verbs, type Act } from "../shared/copies/acts";
import { standingWords, useStanding } from "../shared/copies/standings";
import { useRow } from "../shared/sorting";
import { RuleLink } from "../shared/rules/RuleLink";
import type { Doing } from "./useDoing";

const actLabels: Record<Act, (title: string) => string> = {
  detach: (title) => `Detach ${title}`,
  link: (title) => `Link ${title} again`,
  update: (title) => `Update ${title} from its block`,
  replace: (title) => `Replace ${title}`,
};

/** What a rule puts into a region. It can stand in another region of this page's own text instead. */
export function RulePlaced({
  candidate,
  region,
  title,
  lit,
  others,
  doing,
}: {
  candidate: Candidate;
  region: string;
  title: string;
  lit: string;
  others: string[];
  doing: Doing;
}) {
  const address = `${region}/rule:${candidate.rule}`;
  const why = candidate.why;
  const standing = useStanding(doing.doc, address);
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  const free = why === "shown" && others.length > 0;
  const { row, handle } = useRow(address, title, !free, true);
  return (
    <li
      {...row}
      className={`placed ${why}${lit === address || lit.startsWith(`${address}/`) ? " lit" : ""}`}
    >
      {free && handle}
      <button
        type="button"
        className="plain name"
        onClick={() => doing.light(address, why === "shown" ? title : "")}
      >
        <b>{title}</b>{" "}
        <span className="soft">
          {why === "copied" ? (
            <>
              one-off copy
              {standing && `, ${standingWords[standing]}`}
            </>
          ) : why === "hidden" ? (
            "hidden here"
          ) : (
            <>{candidate.words}, by rule</>
          )}
        </span>
      </button>
      <RuleLink rule={candidate.rule} />
      {doing.settled &&
        why !== "hidden" &&
        actsOf({ kind: why === "copied" ? "copy" : "linked", standing })
          .filter((act) => act !== "replace") // what a rule places is replaced in the rule
          .map((act) => (
            <button
              key={act}
              type="button"
              className="plain word"
              onClick={() => doing.act(act, address, title, candidate.block)}
              aria-label={actLabels[act](title)}
            >
              {act === "update" ? "Bring up" : verbs[act](1)}
            </button>
          ))}
      {why !== "copied" && (
        <button
          type="button"
          className="plain word"
          onClick={() => doing.edit({ edit: why === "hidden" ? "show" : "hide", address })}
          aria-label={`${why === "hidden" ? "Show" : "Hide"} ${title}`}
        >
          {why === "hidden" ? "Show" : "Hide"}
        </button>
      )}
      {free && (
        <>
          <IconButton
            size="small"
            aria-label={`More for ${title}`}
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
                  onClick={() => {
                    setMenu(null);
                    doing.edit({ edit: "own", address, region: r, before: -1 }, true);
                  }}
                >
                  On this page in {r} instead
                </MenuItem>
              ))}
            </Menu>
          )}
        </>
      )}
    </li>
  );
}
