import TextField, { type TextFieldProps } from "@mui/material/TextField";
import { useState } from "react";

/** A field whose value comes back from the server a moment after a key: while it has the focus it
 *  shows what was typed, so that the next key is not set to what was before. */
export function TypedField({
  value,
  change,
  ...field
}: Omit<TextFieldProps, "value" | "onChange" | "onBlur"> & {
  value: string;
  change: (value: string) => void;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  return (
    <TextField
      {...field}
      value={typed ?? value}
      onChange={(e) => {
        setTyped(e.target.value);
        change(e.target.value);
      }}
      onBlur={() => setTyped(null)}
    />
  );
}
