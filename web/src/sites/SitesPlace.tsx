import { Waiting } from "../shared/Waiting";
import Button from "@mui/material/Button";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { useNavigate, useSearchParams } from "react-router";
import { Onward } from "../shared/Onward";
import { api, ApiError, unwrap, type Site } from "../api/client";
import { Brand } from "../shared/Brand";
import { chosen, dropped, type Placed } from "../shared/dropped";
import { tell } from "../shared/notices";
import { freeSite } from "../shared/nameSite";
import { brought } from "./bringing";
import { Deleted } from "./Deleted";
import { counted } from "./words";
import { NewSite } from "./NewSite";
import { SiteRow } from "./SiteRow";

/** The first screen: all sites, new ones, and those that one brings. With one site alone it leads
 *  there, unless all are asked for. */
export function SitesPlace() {
  const [params] = useSearchParams();
  const sites = useQuery({
    queryKey: ["sites"],
    queryFn: async () => unwrap(await api.GET("/sites")),
    staleTime: 0,
  });
  if (sites.error)
    return (
      <p className="empty" role="alert">
        {sites.error.message}
      </p>
    );
  if (!sites.data) return <Waiting error={null}>Opening…</Waiting>;
  const there = sites.data.filter((s) => !s.deleted);
  const [only] = there;
  if (only && there.length === 1 && !params.has("all")) return <Onward to={`/${only.name}`} />;
  return <Sites there={there} deleted={sites.data.filter((s) => s.deleted)} />;
}

function Sites({ there, deleted }: { there: Site[]; deleted: Site[] }) {
  const [making, setMaking] = useState(there.length === 0);
  const [over, setOver] = useState(false);
  const folder = useRef<HTMLInputElement>(null);
  const packed = useRef<HTMLInputElement>(null);
  const bring = useBring(there.map((s) => s.name));
  const last = bring.variables?.files;
  const obstacles =
    bring.error instanceof ApiError
      ? (bring.error.problem.problems ?? []).filter((p) => p.code === "left-out")
      : [];
  const take = (list: HTMLInputElement) => {
    if (list.files) bring.mutate({ files: Promise.resolve(chosen(list.files)), without: false });
    list.value = "";
  };
  return (
    <main
      className={over ? "sites over" : "sites"}
      onDragOver={(e) => {
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={(e) => e.currentTarget === e.target && setOver(false)}
      onDrop={(e) => {
        e.preventDefault();
        setOver(false);
        bring.mutate({ files: dropped(e.dataTransfer), without: false });
      }}
    >
      <Brand to="/?all" />
      <div className="sites-head">
        <h1>Sites</h1>
        <Button variant="contained" aria-expanded={making} onClick={() => setMaking(!making)}>
          New site
        </Button>
        <Button variant="outlined" color="secondary" onClick={() => folder.current?.click()}>
          Bring a folder
        </Button>
        <Button variant="outlined" color="secondary" onClick={() => packed.current?.click()}>
          Bring a zip
        </Button>
        <input
          ref={(e) => {
            folder.current = e;
            e?.setAttribute("webkitdirectory", ""); // a folder is chosen, with all that is in it
          }}
          hidden
          type="file"
          aria-label="The folder to bring"
          onChange={(e) => take(e.target)}
        />
        <input
          ref={packed}
          hidden
          type="file"
          accept=".zip"
          aria-label="The zip to bring"
          onChange={(e) => take(e.target)}
        />
      </div>
      <p role="status" className="sites-status">
        {bring.isPending ? (
          "Taking the site in…"
        ) : bring.error && obstacles.length === 0 ? (
          <span className="bad-text">{bring.error.message}</span>
        ) : (
          <span className="soft">
            The folder of any web site, a shelf folder, or a zip of either can be dropped anywhere
            here.
          </span>
        )}
      </p>
      {obstacles.length > 0 && (
        <div className="panel asks" role="alertdialog" aria-label="Bring it without these?">
          <h2>{counted(obstacles.length, "file")} cannot be taken in; nothing was brought</h2>
          <ul>
            {obstacles.map((p) => (
              <li key={p.path}>
                <code>{p.path}</code> {p.message}
              </li>
            ))}
          </ul>
          <div className="end">
            <Button autoFocus variant="outlined" color="secondary" onClick={() => bring.reset()}>
              Leave it
            </Button>
            <Button
              variant="contained"
              onClick={() => last && bring.mutate({ files: last, without: true })}
            >
              Bring it without them
            </Button>
          </div>
        </div>
      )}
      {making && <NewSite sites={there} close={() => setMaking(false)} />}
      {there.length === 0 && !making && <p className="empty">There is no site yet.</p>}
      <ul className="site-rows">
        {there.map((s) => (
          <SiteRow key={s.name} site={s} taken={there.map((t) => t.name)} />
        ))}
      </ul>
      {deleted.length > 0 && <Deleted sites={deleted} taken={there.map((s) => s.name)} />}
    </main>
  );
}

/** Takes in what somebody brings, as a new site, and opens it. */
function useBring(taken: string[]) {
  const go = useNavigate();
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async ({ files, without }: { files: Promise<Placed[]>; without: boolean }) => {
      const site = await brought(await files);
      const name = freeSite(site.name, taken);
      const { plain } = unwrap(
        await api.POST("/sites/{site}/imports", {
          params: {
            path: { site: name },
            query: { title: "Bring the site", ...(without && { leave_out: true }) },
          },
          body: site.zip as unknown as string,
          bodySerializer: (b) => b,
          headers: { "Content-Type": "application/zip" },
        }),
      );
      return { name, left: site.left, plain };
    },
    onSuccess: async ({ name, left, plain }) => {
      if (plain)
        tell(
          `${counted(plain.pages, "page")} and ${counted(plain.files, "other file")} came in, each at its own address.`,
        );
      if (left.length > 0) tell(`Left alone, since it is none of the site: ${left.join(", ")}.`);
      await queries.invalidateQueries({ queryKey: ["sites"] });
      void go(plain ? `/${name}/repeats` : `/${name}`);
    },
  });
}
