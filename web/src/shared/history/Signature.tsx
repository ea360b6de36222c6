import TextField from "@mui/material/TextField";
import { useState } from "react";
import { signature } from "../../api/client";

/** The name by which the edits of this browser are signed from now on. */
export function Signature() {
  const [name, setName] = useState(signature.get);
  return (
    <TextField
      size="small"
      label="Sign my edits as"
      value={name}
      onChange={(e) => {
        setName(e.target.value);
        signature.set(e.target.value.trim());
      }}
      slotProps={{ htmlInput: { maxLength: 80, autoComplete: "name" } }}
    />
  );
}
