import Close from "@mui/icons-material/Close";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import { useEffect, useRef } from "react";
import { useLocation, useSearchParams } from "react-router";
import { helpOf } from "./help";

/** What the open place is for, beside it: it stays while one works, and follows to the next. */
export function HelpPanel({
  close,
  tour,
  keys,
}: {
  close: () => void;
  tour: () => void;
  keys: () => void;
}) {
  const help = helpOf(useLocation().pathname, useSearchParams()[0]);
  const box = useRef<HTMLElement>(null);
  useEffect(() => box.current?.focus(), []);
  return (
    <section
      ref={box}
      className="help-panel"
      aria-label="Help"
      tabIndex={-1}
      onKeyDown={(e) => {
        if (e.key !== "Escape") return;
        e.stopPropagation();
        close();
      }}
    >
      <h2>
        {help.name}
        <IconButton size="small" aria-label="Close the help" onClick={close}>
          <Close fontSize="small" />
        </IconButton>
      </h2>
      <p>{help.what}</p>
      {help.keys.length > 0 && (
        <>
          <h3>Its keys</h3>
          <dl>
            {help.keys.map(([key, what]) => (
              <div key={key}>
                <dt>
                  <kbd>{key}</kbd>
                </dt>
                <dd>{what}</dd>
              </div>
            ))}
          </dl>
        </>
      )}
      <h3>For example</h3>
      <p>{help.example}</p>
      <p className="help-more">
        <Button size="small" onClick={keys}>
          All keys
        </Button>
        <Button size="small" onClick={tour}>
          Tour
        </Button>
      </p>
    </section>
  );
}
