import Button from "@mui/material/Button";
import type { ReactNode } from "react";
import type { useLiveOperation } from "./useOperation";
import { Answer } from "./usePending";

interface Props {
  label: string;
  /** How it lies: in a row with its buttons at the end, or one above the other. */
  className: "move-page" | "new-page" | "new-block";
  live: ReturnType<typeof useLiveOperation>;
  /** What its button says. */
  act: string;
  close: () => void;
  /** What is said before anything is asked, and in place of what the operation would do. */
  hint: ReactNode;
  told?: ReactNode;
  children: ReactNode;
}

/** A form for an operation, with what it would do while one types. */
export function LiveForm({ label, className, live, act, close, hint, told, children }: Props) {
  const { operated, error } = live;
  return (
    <form className={className} aria-label={label} {...live.form(close)}>
      {children}
      <p role="status">
        {error ? (
          <Answer error={error} operated={null} />
        ) : operated ? (
          (told ?? <Answer error="" operated={operated} />)
        ) : (
          <span className="soft">{hint}</span>
        )}
      </p>
      <span className={className === "move-page" ? "end" : undefined}>
        <Button type="submit" variant="contained" disabled={!live.savable}>
          {act}
        </Button>{" "}
        <Button color="secondary" onClick={close}>
          Leave it
        </Button>
      </span>
    </form>
  );
}
