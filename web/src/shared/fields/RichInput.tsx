import TextField from "@mui/material/TextField";
import { useEffect, useState } from "react";
import { useRichText } from "../../api/queries";

interface Props {
  label: string;
  error: boolean;
  helperText: string;
  value: string;
  change: (value: string) => void;
}

/** How long nothing must be typed before it is told what is amiss, in ms: a tag that is
 *  being typed is not whole yet. */
const pause = 400;

/** A rich text as HTML, with what becomes of it: what of it is not shown, and how it is
 *  saved where its tags do not fit together. */
export function RichInput({ value, change, helperText, ...rest }: Props) {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), pause);
    return () => clearTimeout(timer);
  }, [value]);
  const entered = useRichText(settled).data;
  const amiss = settled === value && entered?.unshown ? entered : null;
  return (
    <TextField
      multiline
      minRows={2}
      {...rest}
      value={value}
      onChange={(e) => change(e.target.value)}
      slotProps={{ formHelperText: { component: "div" } }}
      helperText={
        <>
          {helperText}
          <span role="status" className="rich-amiss">
            {amiss && (
              <>
                {amiss.unshown.charAt(0).toUpperCase() + amiss.unshown.slice(1)}.
                {amiss.written !== value && (
                  <>
                    {" "}
                    Saved as <code>{amiss.written}</code>
                  </>
                )}
              </>
            )}
          </span>
        </>
      }
    />
  );
}
