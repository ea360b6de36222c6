import Button from "@mui/material/Button";
import { lazy, Suspense } from "react";

const Diff = lazy(() => import("./Diff"));

/** Shows what somebody else saved beside what stands here unsaved. Nothing is
 *  lost: either can be taken, and the other stays in the history or in the box. */
export function Conflict({
  path,
  theirs,
  mine,
  keep,
  drop,
}: {
  path: string;
  theirs: string;
  mine: string;
  keep: () => void;
  drop: () => void;
}) {
  return (
    <div className="panel" style={{ margin: "10px 16px 12px", flex: 1 }}>
      <div className="say bad" style={{ margin: 0, borderWidth: "0 0 1px 5px" }}>
        <div role="alert">
          <b>{path} was changed elsewhere</b> while you were editing. On the left what is saved now,
          on the right yours.
        </div>
        <div className="end">
          <Button variant="outlined" color="secondary" onClick={drop}>
            Take the saved one
          </Button>
          <Button variant="contained" onClick={keep}>
            Go on with mine
          </Button>
        </div>
      </div>
      <div className="scroll">
        <Suspense fallback={<p className="empty">Comparing…</p>}>
          <Diff before={theirs} after={mine} label="Saved now, and yours" />
        </Suspense>
      </div>
    </div>
  );
}
