import TextField from "@mui/material/TextField";
import { useMemo } from "react";
import type { Overview } from "../api/client";
import { previewOf, useLook } from "../api/look";
import type { RepeatedPiece } from "../api/repeats";
import { Live } from "../shared/rendering/Live";
import { useWidth, WidthTabs } from "../shared/rendering/WidthTabs";
import { SightBar, useSight } from "../shared/rendering/Sight";
import { Tabs } from "../shared/Tabs";
import { usePut } from "../shared/usePut";
import { useSearchParams } from "react-router";
import { PieceValues } from "./PieceValues";
import type { Decided } from "./pieces";

interface Props {
  piece: RepeatedPiece;
  overview: Overview;
  decided: Decided;
  decide: (d: Decided) => void;
  /** The document of the block that would be made of it; "" where that is not worked out. */
  made: string;
}

/** A piece on one of its pages, what its places say, and the markup of the block that it would be. */
export function PieceSheet({ piece, overview, decided, decide, made }: Props) {
  const [params] = useSearchParams();
  const put = usePut();
  const tab = params.get("tab") ?? "values";
  const as = tab === "look" || tab === "markup" ? tab : "values";
  const fields = piece.piece.fields.filter((f) => !f.spacing).length;
  return (
    <div className="panel">
      <div className="bar piece-bar">
        <TextField
          label="Title of the block"
          value={decided.title}
          placeholder={piece.piece.title}
          onChange={(e) => decide({ ...decided, title: e.target.value })}
          slotProps={{ inputLabel: { shrink: true } }}
        />
        <Tabs
          label="What of the piece"
          className=""
          value={as}
          choose={(t) => put("tab", t)}
          tabs={[
            ["values", `Values${fields > 0 ? ` ${fields}` : ""}`],
            ["look", "On a page"],
            ["markup", "Markup"],
          ]}
        />
      </div>
      {as === "values" && (
        <PieceValues piece={piece} overview={overview} decided={decided} decide={decide} />
      )}
      {as === "look" && <OnPage piece={piece} overview={overview} />}
      {as === "markup" && (
        <pre className="piece-markup" tabIndex={0} aria-label="Markup of the block">
          {made || piece.markup}
        </pre>
      )}
    </div>
  );
}

/** The first page on which the piece stands, scrolled to it. */
function OnPage({ piece, overview }: { piece: RepeatedPiece; overview: Overview }) {
  const { doc, from, to } = piece.piece.example;
  const page = overview.pages.find((p) => p.doc === doc);
  const [look] = useLook();
  const [width, setWidth] = useWidth();
  const sight = useSight();
  const light = useMemo(() => ({ own: [from, to] as const, scroll: true }), [from, to]);
  if (!page) return null;
  const url = previewOf(overview, page.path, "", look);
  return (
    <div className={`${sight.panel} piece-look`}>
      <div className="bar rendering-bar">
        <WidthTabs width={width} set={setWidth} />
        <SightBar sight={sight} url={url} live={`${overview.site_origin}${page.path}`} />
      </div>
      <Live
        url={url}
        width={width}
        zoom={sight.zoom}
        title={`${piece.piece.title} on ${page.title}`}
        light={light}
      />
    </div>
  );
}
