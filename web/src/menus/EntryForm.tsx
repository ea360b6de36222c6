import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import Close from "@mui/icons-material/Close";
import FormControlLabel from "@mui/material/FormControlLabel";
import Choice from "@mui/material/MenuItem";
import IconButton from "@mui/material/IconButton";
import TextField from "@mui/material/TextField";
import type { MenuItem } from "../api/client";
import type { Choices } from "../shared/fields/choices";
import { FieldInput } from "../shared/fields/FieldInput";
import { Picked } from "../shared/fields/Picked";

interface Props {
  item: Omit<MenuItem, "items">;
  choices: Choices;
  put: (part: Partial<MenuItem>) => void;
  add: (under: boolean) => void;
  double: () => void;
  open: () => void;
  drop: () => void;
  close: () => void;
}

/** One entry of a menu: label, where it leads, and what stands with it. */
export function EntryForm({ item, choices, put, add, double, open, drop, close }: Props) {
  return (
    <section className="call-panel" aria-label={`Entry ${item.label}`}>
      <header>
        <b>{item.label || "New entry"}</b>
        <span className="soft" />
        <IconButton size="small" aria-label="Close the form of the entry" onClick={close}>
          <Close fontSize="small" />
        </IconButton>
      </header>
      <div className="call-fields">
        <TextField
          autoFocus={item.label === ""}
          label="Label"
          value={item.label}
          onChange={(e) => put({ label: e.target.value })}
        />
        <Picked
          label="Leads to"
          error={false}
          helperText="a page of the site, or any address"
          value={item.to}
          change={(to) => put({ to })}
          options={choices.pages}
        />
        <TextField
          label="Note under it"
          value={item.note}
          onChange={(e) => put({ note: e.target.value })}
        />
        <TextField
          label="Badge"
          value={item.badge}
          onChange={(e) => put({ badge: e.target.value })}
        />
        <FieldInput
          field={icon}
          value={item.icon}
          change={(v) => put({ icon: v })}
          choices={choices}
        />
        {item.icon !== "" && (
          <TextField
            label="Size of the icon, in pixels"
            value={item.icon_size}
            onChange={(e) => put({ icon_size: e.target.value.trim() })}
            slotProps={{ htmlInput: { inputMode: "numeric" } }}
          />
        )}
        <FieldInput
          field={image}
          value={item.image}
          change={(v) => put({ image: v })}
          choices={choices}
        />
        <TextField
          select
          label="Only for"
          value={item.audience || "everyone"}
          onChange={(e) => put({ audience: e.target.value === "everyone" ? "" : e.target.value })}
        >
          <Choice value="everyone">Everyone</Choice>
          <Choice value="signed-in">Those who are signed in</Choice>
          <Choice value="signed-out">Those who are signed out</Choice>
        </TextField>
        <FieldInput
          field={from}
          value={item.from}
          change={(v) => put({ from: v })}
          choices={choices}
        />
        <FieldInput
          field={until}
          value={item.until}
          change={(v) => put({ until: v })}
          choices={choices}
        />
        <div className="entry-panel">
          <Button size="small" variant="outlined" color="secondary" onClick={open}>
            {item.panel ? "Open its panel" : "Give it a panel"}
          </Button>{" "}
          <span className="soft">{held(item.panel)}</span>
        </div>
        <FormControlLabel
          control={
            <Checkbox
              size="small"
              checked={item.new_tab}
              onChange={(e) => put({ new_tab: e.target.checked })}
            />
          }
          label="In a new tab"
        />
        <span className="page-acts">
          <Button size="small" variant="outlined" color="secondary" onClick={() => add(false)}>
            Add one below
          </Button>
          <Button size="small" variant="outlined" color="secondary" onClick={() => add(true)}>
            Add one inside
          </Button>
          <Button size="small" variant="outlined" color="secondary" onClick={double}>
            Double it
          </Button>
          <Button size="small" onClick={drop}>
            Take out
          </Button>
        </span>
      </div>
    </section>
  );
}

/** What a panel holds, in words: what it calls, in order. */
export function held(panel: string): string {
  const calls = [...panel.matchAll(/@\{([a-z][a-z0-9-]*)/g)].map((m) => m[1]);
  return panel === "" ? "" : calls.length > 0 ? `It holds ${calls.join(", ")}.` : "It holds text.";
}

const some = {
  default: "",
  required: false,
  from: "",
  help: "",
  choices: [],
  default_text: "",
  min: "",
  max: "",
  fields: [],
};
const icon = { ...some, name: "icon", label: "Icon", type: "image" as const };
const image = { ...some, name: "image", label: "Picture", type: "image" as const };
const from = { ...some, name: "from", label: "First day", type: "date" as const };
const until = { ...some, name: "until", label: "Last day", type: "date" as const };
