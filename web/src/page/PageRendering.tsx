import Button from "@mui/material/Button";
import { useMemo } from "react";
import { Link, useSearchParams } from "react-router";
import type { Overview, Page } from "../api/client";
import { useSite } from "../api/queries";
import { Faults, useFaults } from "../shared/rendering/Faults";
import { Live } from "../shared/rendering/Live";
import { SightBar, useSight } from "../shared/rendering/Sight";
import { useWidth, WidthTabs } from "../shared/rendering/WidthTabs";
import { InsertCall } from "../shared/calls/InsertCall";
import { characters } from "../shared/editor/characters";
import { LookBar } from "../shared/LookBar";
import { previewOf, useLook } from "../api/look";
import type { Range, usePointing } from "./usePointing";

interface Props {
  page: Page;
  overview: Overview;
  proposal: string;
  pointing: ReturnType<typeof usePointing>;
  piece: Range | null;
  setPiece: (piece: Range) => void;
  /** What is chosen can only be cut out of what is saved. */
  dirty: boolean;
  text: string;
  /** Puts a call in the place of what is chosen. */
  wrap: (call: string, chosen: Range) => void;
}

/** The page as an edit makes it, in which one points at things, and what was pointed at. */
export function PageRendering({
  page,
  overview,
  proposal,
  pointing,
  piece,
  setPiece,
  dirty,
  text,
  wrap,
}: Props) {
  const site = useSite();
  const [, setParams] = useSearchParams();
  const [look] = useLook();
  const [width, setWidth] = useWidth();
  const sight = useSight();
  const { lit, chosen, elsewhere } = pointing;
  const light = useMemo(() => (lit ? { address: lit, scroll: true } : {}), [lit]);
  const url = previewOf(overview, page.path, proposal, look);
  const { fault, faults } = useFaults(url);
  const follow = (href: string) => {
    const to = overview.pages.find((p) => p.path === href.split("#")[0]);
    if (to)
      setParams((p) => {
        p.set("doc", to.doc);
        return p;
      });
  };
  return (
    <div className={sight.panel}>
      <div className="bar rendering-bar">
        <WidthTabs width={width} set={setWidth} />
        <SightBar sight={sight} url={url} live={`${overview.site_origin}${page.path}`} />
        <span className="right">
          <LookBar />
        </span>
      </div>
      <Live
        url={url}
        width={width}
        zoom={sight.zoom}
        title={page.title}
        light={light}
        follow={follow}
        point={pointing.point}
        own={pointing.own}
        fault={fault}
      />
      <Faults faults={faults} />
      {chosen && !piece && (
        <div className="elsewhere" role="status">
          <span>
            Chosen: <b>{chosen.tags}</b> of this page&apos;s text.{" "}
            <span className="soft">Shift takes neighbours in.</span>
          </span>
          <Button size="small" disabled={dirty} onClick={() => setPiece(chosen)}>
            Make a block of it
          </Button>
          {!dirty && (
            <InsertCall
              label="Put it into a call"
              enclosing
              selected={text.slice(characters(text, chosen.from), characters(text, chosen.to))}
              insert={(call) => wrap(call, chosen)}
            />
          )}
          <Button size="small" onClick={() => pointing.setChosen(null)}>
            Close
          </Button>
        </div>
      )}
      {elsewhere && (
        <div className="elsewhere" role="status">
          <span>
            <b>{elsewhere.title}</b> <code>{elsewhere.address}</code> is not in this page&apos;s
            text.
          </span>{" "}
          <Link to={`/${site}/${elsewhere.place}/${elsewhere.block}`}>Open it</Link>
          <Button size="small" onClick={() => pointing.setElsewhere(null)}>
            Close
          </Button>
        </div>
      )}
    </div>
  );
}
