import Button from "@mui/material/Button";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { api, unwrap, type Site } from "../api/client";
import { freeSite } from "../shared/nameSite";
import { tell } from "../shared/notices";
import { ago } from "./words";

/** The sites that were deleted and can be had back. */
export function Deleted({ sites, taken }: { sites: Site[]; taken: string[] }) {
  const queries = useQueryClient();
  const recover = useMutation({
    mutationFn: async (site: Site) =>
      unwrap(
        await api.POST("/sites/{site}/recovery", {
          params: { path: { site: site.name } },
          body: { name: freeSite(site.name, taken) },
        }),
      ),
    onSuccess: async (site) => {
      tell(`${site.title} is back.`);
      await queries.invalidateQueries({ queryKey: ["sites"] });
    },
    onError: (e) => tell(e.message, "error"),
  });
  return (
    <section className="deleted-sites" aria-label="Deleted">
      <h2>Deleted</h2>
      <ul>
        {sites.map((s) => (
          <li key={`${s.name} ${s.deleted}`}>
            <code>{s.name}</code> <span className="soft">{ago(s.deleted)}, kept for 30 days</span>{" "}
            <Button
              size="small"
              aria-label={`Have ${s.name} back`}
              onClick={() => recover.mutate(s)}
            >
              Have it back
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}
