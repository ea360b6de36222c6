import { Link } from "react-router";
import { useLibraries } from "../api/parts";
import { useSite } from "../api/queries";

/** Where a block or shortcode came from, and whether it is another one there now. */
export function CameFrom({ id }: { id: string }) {
  const site = useSite();
  const { data } = useLibraries();
  for (const l of data ?? []) {
    const u = l.units.find((k) => k.id === id);
    if (!u) continue;
    const query = new URLSearchParams({ from: l.site, of: u.of }).toString();
    const newer = u.state === "newer" || u.state === "both";
    return (
      <span className="soft">
        {" "}
        From {l.title}
        {newer ? (
          <>
            , where it is another one by now: <Link to={`/${site}/parts?${query}`}>compare</Link>.
          </>
        ) : (
          "."
        )}
      </span>
    );
  }
  return null;
}
