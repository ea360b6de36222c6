import { useQuery } from "@tanstack/react-query";
import { Navigate } from "react-router";
import { api, unwrap } from "../api/client";
import { useOverview, useSite } from "../api/queries";

/** Without a site in the address, the first one there is. */
export function FirstSite() {
  const sites = useQuery({
    queryKey: ["sites"],
    queryFn: async () => unwrap(await api.GET("/sites")),
  });
  if (sites.error)
    return (
      <p className="empty" role="alert">
        {sites.error.message}
      </p>
    );
  if (!sites.data) return null;
  const first = sites.data[0];
  if (!first)
    return (
      <main className="empty">
        <h1>Nothing on the shelf yet</h1>
        <p>
          Take a site in: <code>brickshelf import --data DIR FOLDER</code>, then start the server
          again.
        </p>
      </main>
    );
  return <Navigate to={`/${first.name}`} replace />;
}

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
