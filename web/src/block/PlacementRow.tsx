import Checkbox from "@mui/material/Checkbox";
import Button from "@mui/material/Button";
import type { Placement } from "../api/client";
import { actsOf, type Act } from "../shared/copies/acts";
import { standingWords } from "../shared/copies/standings";
import type { State } from "../shared/states";
import { Sign } from "../shared/wall/Sign";

function stateOf(p: Placement): State {
  if (p.kind === "copy") return "copy";
  if (p.kind === "hidden") return "hidden";
  return p.own.length > 0 ? "own" : "linked";
}

const words: Partial<Record<State, string>> = {
  linked: "linked",
  own: "linked, own values",
  copy: "one-off copy",
  hidden: "taken off this page",
};

/** What brought a placement where it stands, in words. */
export function how(via: string): string {
  const [folder, name] = via.split("/", 2);
  const base = (name ?? "").replace(/\.\w+$/, "");
  switch (folder) {
    case "rules":
      return `rule ${base}`;
    case "layouts":
      return `layout ${base}`;
    case "blocks":
      return `inside ${base}`;
    case "menus":
      return `menu ${base}`;
    default:
      return "this page's text";
  }
}

/** Who alone sees a placement, and when; "" where everyone does. */
export function seenBy(p: Placement): string {
  const days = [p.from && `from ${p.from}`, p.until && `until ${p.until}`]
    .filter(Boolean)
    .join(" ");
  const who =
    p.audience === "signed-in"
      ? "only signed in"
      : p.audience === "signed-out"
        ? "only signed out"
        : "";
  return [who, days].filter(Boolean).join(", ");
}

interface Props {
  placement: Placement;
  index: number;
  open: boolean;
  look: (page: string) => void;
  turn: (act: Act) => void;
  chosen: boolean;
  choose: () => void;
  compared: boolean;
  compare: () => void;
  /** Asked for by its key. */
  keyed: (act: Act) => void;
}

/** What a key does to the spot in whose row it is pressed. */
const keys: Record<string, Act> = { d: "detach", l: "link", r: "replace", u: "update" };

/** One spot where a block stands. */
export function PlacementRow(props: Props) {
  const { placement: p, index, open, look, turn, compared, compare } = props;
  const acts = actsOf(p);
  const own = p.own.map((o) => `${o.field}: ${o.text}`);
  return (
    <tr
      className={open ? "open" : ""}
      aria-rowindex={index + 2}
      data-page={p.page}
      data-address={p.address}
      onKeyDown={(e) => {
        const act = keys[e.key];
        if (!act || e.ctrlKey || e.metaKey || e.altKey || !acts.includes(act)) return;
        e.preventDefault();
        props.keyed(act);
      }}
    >
      <td>
        {acts.length > 0 && (
          <Checkbox
            size="small"
            className="row-box"
            slotProps={{
              input: {
                "aria-label": `Choose ${p.title}, ${p.address}`,
                ...(index === 0 && { "data-first": "" }),
              } as React.InputHTMLAttributes<HTMLInputElement>,
            }}
            checked={props.chosen}
            onChange={props.choose}
          />
        )}
      </td>
      <td className="tight">
        <button type="button" className="plain" onClick={() => look(p.page)} title={p.address}>
          <b>{p.title}</b> <span className="soft">{p.page}</span>
        </button>
      </td>
      <td>{p.region}</td>
      <td className="tight">
        {how(p.via)}
        {seenBy(p) && <span className="soft">, {seenBy(p)}</span>}
      </td>
      <td>
        <span
          style={{ display: "inline-flex", gap: 6, alignItems: "center", whiteSpace: "nowrap" }}
        >
          <Sign state={stateOf(p)} /> {words[stateOf(p)]}
          {p.standing && <span className="soft">{standingWords[p.standing]}</span>}
        </span>
      </td>
      <td className="soft tight own-values" title={own.join("\n")}>
        {own.join(", ")}
      </td>
      <td className="acts">
        {p.kind === "linked" && (
          <>
            <Button
              color="secondary"
              onClick={() => turn("replace")}
              aria-label={`Replace on ${p.title}`}
            >
              Replace
            </Button>
            <Button onClick={() => turn("detach")} aria-label={`Detach on ${p.title}`}>
              Detach
            </Button>
          </>
        )}
        {p.kind === "copy" && (
          <>
            {p.standing && (
              <Button
                color="secondary"
                aria-expanded={compared}
                onClick={compare}
                aria-label={`Compare on ${p.title}`}
              >
                Compare
              </Button>
            )}
            {acts.includes("update") && (
              <Button
                onClick={() => turn("update")}
                aria-label={`Update from the block on ${p.title}`}
              >
                Bring up
              </Button>
            )}
            <Button onClick={() => turn("link")} aria-label={`Link again on ${p.title}`}>
              Link again
            </Button>
          </>
        )}
      </td>
    </tr>
  );
}
