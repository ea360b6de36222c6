import Checkbox from "@mui/material/Checkbox";
import type { Repeat } from "../api/repeats";
import { Rows } from "../shared/Rows";
import { aboutPiece } from "./pieces";

interface Props {
  pieces: Repeat[];
  shown: string;
  show: (id: string) => void;
  chosen: ReadonlySet<string>;
  choose: (id: string, on: boolean) => void;
}

/** The pieces, with what each would save; several are chosen to become blocks at once. */
export function PieceList({ pieces, shown, show, chosen, choose }: Props) {
  const titles = new Map(pieces.map((p) => [p.id, p.title]));
  return (
    <div className="panel">
      <Rows
        label="Pieces"
        height={46}
        items={pieces}
        keyOf={(p) => p.id}
        row={(p) => (
          <span className={p.id === shown ? "piece-row lit" : "piece-row"}>
            <Checkbox
              size="small"
              checked={chosen.has(p.id)}
              onChange={(e) => choose(p.id, e.target.checked)}
              slotProps={{ input: { "aria-label": `Choose ${p.title}` } }}
            />
            <button
              type="button"
              className="piece-name"
              aria-current={p.id === shown ? "true" : undefined}
              onClick={() => show(p.id)}
            >
              <span className="piece-title">
                <b dir="auto">{p.title}</b>
                <span className="soft">
                  {p.kind === "frame" ? "frame" : "content"}
                  {p.within && `, within ${titles.get(p.within) ?? p.within}`}
                </span>
              </span>
              <span className="soft">{aboutPiece(p)}</span>
            </button>
          </span>
        )}
      />
    </div>
  );
}
