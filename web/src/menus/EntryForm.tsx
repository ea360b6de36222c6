import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import Close from "@mui/icons-material/Close";
import FormControlLabel from "@mui/material/FormControlLabel";
import IconButton from "@mui/material/IconButton";
import TextField from "@mui/material/TextField";
import type { MenuItem } from "../api/client";
import { InsertCall } from "../shared/calls/InsertCall";
import type { Choices } from "../shared/fields/choices";
import { FieldInput } from "../shared/fields/FieldInput";
import { Picked } from "../shared/fields/Picked";

interface Props {
  item: Omit<MenuItem, "items">;
  choices: Choices;
  put: (part: Partial<MenuItem>) => void;
  add: (under: boolean) => void;
  drop: () => void;
  close: () => void;
}

/** One entry of a menu: label, where it leads, and what stands with it. */
export function EntryForm({ item, choices, put, add, drop, close }: Props) {
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
        <div style={{ gridColumn: "1 / -1" }}>
          <TextField
            fullWidth
            multiline
            maxRows={5}
            label="Panel, shown when it opens"
            value={item.panel}
            onChange={(e) => put({ panel: e.target.value })}
            slotProps={{
              htmlInput: { style: { fontFamily: "var(--mono)", fontSize: 13 }, spellCheck: false },
            }}
          />
          <InsertCall label="Put a block in" insert={(call) => put({ panel: item.panel + call })} />
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
          <Button size="small" onClick={drop}>
            Take out
          </Button>
        </span>
      </div>
    </section>
  );
}

const icon = {
  name: "icon",
  label: "Icon",
  type: "image" as const,
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
