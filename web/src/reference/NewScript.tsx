import Button from "@mui/material/Button";
import { useState } from "react";
import { useNavigate } from "react-router";
import { useSite } from "../api/queries";
import { blank } from "../shared/calls/sample";
import { useBuffers } from "../shared/buffers";
import { nameOf } from "../shared/NewBlock";

/** Begins a scripted shortcode; it is on the shelf when it is saved. */
export function NewScript({ taken }: { taken: string[] }) {
  const site = useSite();
  const go = useNavigate();
  const buffers = useBuffers();
  const [title, setTitle] = useState<string | null>(null);
  const name = nameOf(title ?? "");
  if (title === null)
    return (
      <Button size="small" onClick={() => setTitle("")}>
        New script
      </Button>
    );
  const begin = () => {
    buffers.set(site, `shortcodes/${name}.js`, { text: blank(title.trim()), base: "" });
    void go(`/${site}/scripts/${name}`);
  };
  return (
    <form
      className="new-script"
      aria-label="New script"
      onKeyDown={(e) => e.key === "Escape" && setTitle(null)}
      onSubmit={(e) => {
        e.preventDefault();
        if (name && !taken.includes(name)) begin();
      }}
    >
      <input
        autoFocus
        aria-label="Title of the new script"
        placeholder="Title"
        value={title}
        onChange={(e) => setTitle(e.target.value)}
      />
      <Button
        type="submit"
        size="small"
        variant="contained"
        disabled={!name || taken.includes(name)}
      >
        Begin it
      </Button>
      <span role="status">
        {taken.includes(name) ? (
          <span className="bad-text">{name} is taken</span>
        ) : (
          name && <code>@{`{${name} /}`}</code>
        )}
      </span>
    </form>
  );
}
