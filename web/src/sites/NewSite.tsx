import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { api, unwrap, type Site } from "../api/client";
import { freeSite, nameOf } from "../shared/nameSite";

/** Makes a site: empty but for a frame and a first page, or as a copy, or as the demo. */
export function NewSite({ sites, close }: { sites: Site[]; close: () => void }) {
  const [title, setTitle] = useState("");
  const [as, setAs] = useState("new");
  const go = useNavigate();
  const queries = useQueryClient();
  const name = freeSite(
    nameOf(title),
    sites.map((s) => s.name),
  );
  const make = useMutation({
    mutationFn: async () =>
      unwrap(
        await api.POST("/sites", {
          body: {
            title: title.trim(),
            name,
            ...(as === "demo" && { demo: true }),
            ...(as.startsWith("copy:") && { copy_of: as.slice("copy:".length) }),
          },
        }),
      ),
    onSuccess: async (made) => {
      await queries.invalidateQueries({ queryKey: ["sites"] });
      void go(`/${made.name}`);
    },
  });
  return (
    <form
      className="new-site"
      aria-label="New site"
      onSubmit={(e) => {
        e.preventDefault();
        make.mutate();
      }}
    >
      <TextField
        autoFocus
        required
        label="Title"
        value={title}
        onChange={(e) => setTitle(e.target.value)}
        helperText={title.trim() ? `In addresses of the tool: ${name}` : "Its pages show it."}
      />
      <TextField
        select
        label="It begins with"
        value={as}
        onChange={(e) => setAs(e.target.value)}
        sx={{ minWidth: 300 }}
      >
        <MenuItem value="new">A layout, header, footer and first page</MenuItem>
        {sites.map((s) => (
          <MenuItem key={s.name} value={`copy:${s.name}`}>
            All that {s.title} holds
          </MenuItem>
        ))}
        <MenuItem value="demo">The demo site</MenuItem>
      </TextField>
      <span>
        <Button type="submit" variant="contained" disabled={!title.trim() || make.isPending}>
          Make it
        </Button>{" "}
        <Button color="secondary" onClick={close}>
          Leave it
        </Button>
      </span>
      {make.error && (
        <p className="bad-text" role="alert">
          {make.error.message}
        </p>
      )}
    </form>
  );
}
