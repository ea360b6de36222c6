import Button from "@mui/material/Button";
import { useState } from "react";
import { Link } from "react-router";
import type { BlockSummary } from "../api/client";
import { useOverview, useSite } from "../api/queries";
import { Onward } from "../shared/Onward";
import { NewBlock } from "../shared/NewBlock";

/** Without a block in the address, the footer, which most pages have, or else the first. */
export function FirstBlock() {
  const site = useSite();
  const { data } = useOverview();
  if (!data) return null;
  const first = data.blocks.find((b) => b.name === "footer") ?? data.blocks[0];
  if (!first) return <NoBlocks blocks={data.blocks} />;
  return <Onward to={`/${site}/blocks/${first.name}`} />;
}

/** A site without a block: the first one is made here. */
function NoBlocks({ blocks }: { blocks: BlockSummary[] }) {
  const site = useSite();
  const [making, setMaking] = useState(false);
  return (
    <div className="empty">
      <h1>No blocks yet</h1>
      <p>
        A block is markup that stands on many pages: a header, a footer, a card. It is made once,
        and each page that shows it follows it.
      </p>
      {making ? (
        <NewBlock blocks={blocks} close={() => setMaking(false)} />
      ) : (
        <>
          <Button variant="contained" onClick={() => setMaking(true)}>
            Make the first block
          </Button>{" "}
          <Button component={Link} to={`/${site}/repeats`}>
            Find what pages repeat
          </Button>
        </>
      )}
    </div>
  );
}
