import TextField from "@mui/material/TextField";
import { Suspense, useCallback, useEffect, useState } from "react";
import { useRichText } from "../../api/queries";
import { later } from "../later";
import type { Option } from "./choices";

const RichText = later(() => import("./RichText"), "RichText");
const noPages: Option[] = [];

interface Props {
  label: string;
  required?: boolean;
  error: boolean;
  helperText: string;
  value: string;
  change: (value: string) => void;
  pages?: Option[];
}

/** How long nothing must be typed before it is told what is amiss, in ms: a tag that is
 *  being typed is not whole yet. */
const pause = 400;

/** A rich text, as one reads it or as HTML, with what becomes of it: what of it is not shown, and how
 *  it is saved where its tags do not fit together. Where the editor would lose something of it, it is
 *  edited as HTML. */
export function RichInput({ value, change, helperText, pages = noPages, ...rest }: Props) {
  const [source, setSource] = useState(false);
  const [lost, setLost] = useState<string | null>(null); // the value of which something would be
  const loses = useCallback(() => setLost(value), [value]);
  const asSource = source || lost !== null;
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), pause);
    return () => clearTimeout(timer);
  }, [value]);
  const entered = useRichText(settled).data;
  const amiss = settled === value && entered?.unshown ? entered : null;
  const told = (
    <>
      {helperText}
      {lost !== null && !source && (
        <span>
          {helperText && "; "}it has markup that the text editor cannot hold, so it is edited as
          HTML
        </span>
      )}
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
  );
  const other = (
    <button
      type="button"
      className="plain word"
      onClick={() => {
        setLost(null);
        setSource(!asSource);
      }}
    >
      as {asSource ? "text" : "HTML"}
    </button>
  );
  if (asSource)
    return (
      <div className="rich-input">
        <TextField
          multiline
          minRows={2}
          {...rest}
          value={value}
          onChange={(e) => change(e.target.value)}
          slotProps={{ formHelperText: { component: "div" } }}
          helperText={told}
        />
        {other}
      </div>
    );
  return (
    <div className="rich-input">
      <span className="rich-label" aria-hidden>
        {rest.label}
        {rest.required && " *"}
      </span>
      <Suspense fallback={<p className="soft">Opening the editor…</p>}>
        <RichText label={rest.label} value={value} change={change} pages={pages} loses={loses} />
      </Suspense>
      <div className={rest.error ? "bad-text" : "soft"}>{told}</div>
      {other}
    </div>
  );
}
