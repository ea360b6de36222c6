import { Navigate } from "react-router";
import { useOverview, useSite } from "../api/queries";

/** Without a block in the address, the footer, which most pages have, or else the first. */
export function FirstBlock() {
  const site = useSite();
  const { data } = useOverview();
  if (!data) return null;
  const first = data.blocks.find((b) => b.name === "footer") ?? data.blocks[0];
  if (!first)
    return (
      <p className="empty">
        This site has no blocks yet. Put one into its shelf folder as blocks/NAME.html and import
        it.
      </p>
    );
  return <Navigate to={`/${site}/blocks/${first.name}`} replace />;
}
