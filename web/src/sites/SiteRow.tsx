import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, unwrap, type Site } from "../api/client";
import { tell } from "../shared/notices";
import { ago, counted } from "./words";

/** One site: what state it is in, and what can be done with it as a whole. */
export function SiteRow({ site, taken }: { site: Site; taken: string[] }) {
  const [doing, setDoing] = useState<"" | "rename" | "delete">("");
  return (
    <li className="site-row">
      <div>
        <h2>
          <Link to={`/${site.name}`}>{site.title}</Link>
        </h2>
        <p>
          <code>{site.name}</code> <b>{counted(site.pages, "page")}</b>.{" "}
          {site.release === 0
            ? "Nothing is published yet."
            : `Release ${site.release}, ${ago(site.released)}.`}{" "}
          {site.waiting > 0 && <b>{counted(site.waiting, "edit")} not published. </b>}
          <span className="soft">
            {site.last ? `Last: ${site.last}, ${ago(site.changed)}.` : `Made ${ago(site.changed)}.`}
            {site.folder && ` Written into ${site.folder}.`}
          </span>
        </p>
      </div>
      <span className="site-acts">
        <Button
          size="small"
          component="a"
          href={`${site.site_origin}/`}
          target="_blank"
          disabled={site.release === 0}
          aria-label={`See ${site.title} as published`}
        >
          See it
        </Button>
        <Button
          size="small"
          aria-expanded={doing === "rename"}
          aria-label={`Rename ${site.title}`}
          onClick={() => setDoing(doing === "rename" ? "" : "rename")}
        >
          Rename
        </Button>
        <Button
          size="small"
          component="a"
          href={`/api/v1/sites/${site.name}/export`}
          download={`${site.name}.zip`}
          aria-label={`Export ${site.title} as a zip`}
        >
          Export
        </Button>
        <Button
          size="small"
          aria-expanded={doing === "delete"}
          aria-label={`Delete ${site.title}`}
          onClick={() => setDoing(doing === "delete" ? "" : "delete")}
        >
          Delete
        </Button>
      </span>
      {doing === "rename" && <Rename site={site} taken={taken} close={() => setDoing("")} />}
      {doing === "delete" && <Remove site={site} close={() => setDoing("")} />}
    </li>
  );
}

function Rename({ site, taken, close }: { site: Site; taken: string[]; close: () => void }) {
  const [name, setName] = useState(site.name);
  const queries = useQueryClient();
  const rename = useMutation({
    mutationFn: async () =>
      unwrap(
        await api.PATCH("/sites/{site}", { params: { path: { site: site.name } }, body: { name } }),
      ),
    onSuccess: async () => {
      close();
      tell(`${site.name} is ${name} now.`);
      await queries.invalidateQueries({ queryKey: ["sites"] });
    },
  });
  const clash = name !== site.name && taken.includes(name);
  return (
    <form
      aria-label={`Rename ${site.title}`}
      onSubmit={(e) => {
        e.preventDefault();
        rename.mutate();
      }}
    >
      <TextField
        autoFocus
        label="Name in addresses"
        value={name}
        onChange={(e) => setName(e.target.value)}
        error={clash || rename.isError}
        helperText={
          clash
            ? "Another site has this name."
            : (rename.error?.message ??
              "Its title stands in its own values. Open tabs have to be opened anew; what is unsaved there is kept.")
        }
      />
      <Button
        type="submit"
        variant="contained"
        disabled={clash || name === site.name || rename.isPending}
      >
        Rename it
      </Button>
    </form>
  );
}

function Remove({ site, close }: { site: Site; close: () => void }) {
  const [typed, setTyped] = useState("");
  const queries = useQueryClient();
  const remove = useMutation({
    mutationFn: async () => {
      const answer = await api.DELETE("/sites/{site}", {
        params: { path: { site: site.name }, query: { confirm: typed } },
      });
      if (answer.error) throw new Error(answer.error.detail);
    },
    onSuccess: async () => {
      close();
      tell(`${site.title} is deleted. It can be restored for 30 days.`);
      await queries.invalidateQueries({ queryKey: ["sites"] });
    },
  });
  return (
    <form
      aria-label={`Delete ${site.title}`}
      onSubmit={(e) => {
        e.preventDefault();
        remove.mutate();
      }}
    >
      <TextField
        autoFocus
        label={`Type ${site.name} to delete it`}
        value={typed}
        onChange={(e) => setTyped(e.target.value)}
        error={remove.isError}
        helperText={
          remove.error?.message ??
          `Takes away ${counted(site.pages, "page")}, all edits and releases. It can be restored here for 30 days.${site.folder ? ` What is written into ${site.folder} stays there.` : ""}`
        }
      />
      <Button
        type="submit"
        variant="contained"
        color="error"
        disabled={typed !== site.name || remove.isPending}
      >
        Delete it
      </Button>
    </form>
  );
}
