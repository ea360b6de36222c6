import type { ReactNode } from "react";
import type { Overview, Page } from "../../api/client";
import { previewOf } from "../../api/look";
import { Live } from "./Live";
import { SightBar, useSight } from "./Sight";
import { useWidth, WidthTabs } from "./WidthTabs";
import { PagePick } from "../PagePick";

const noLight = {};

interface Props {
  overview: Overview;
  pages: Page[];
  page: Page | undefined;
  choose: (path: string) => void;
  proposal: string;
  /** What stands there where there is no page. */
  children: ReactNode;
}

/** One of some pages as an edit makes it, at a width, and the choice of another. */
export function RenderingOn({ overview, pages, page, choose, proposal, children }: Props) {
  const [width, setWidth] = useWidth();
  const sight = useSight();
  const url = page ? previewOf(overview, page.path, proposal) : "";
  return (
    <div className={sight.panel}>
      <div className="bar rendering-bar">
        <WidthTabs width={width} set={setWidth} />
        <SightBar sight={sight} url={url} live={page && `${overview.site_origin}${page.path}`} />
        {page && (
          <span className="right">
            <PagePick
              label="Page of the rendering"
              page={page.path}
              choose={choose}
              pages={pages}
            />
          </span>
        )}
      </div>
      {page ? (
        <Live url={url} width={width} zoom={sight.zoom} title={page.title} light={noLight} />
      ) : (
        <p className="empty">{children}</p>
      )}
    </div>
  );
}
