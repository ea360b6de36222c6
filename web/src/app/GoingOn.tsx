import Button from "@mui/material/Button";
import LinearProgress from "@mui/material/LinearProgress";
import { useEffect, useState, useSyncExternalStore } from "react";
import { goingOn, type Going } from "../api/goingOn";

/** Milliseconds after which one is told what is waited for. */
const long = 1000;

/** What has been waited for the longest, once that is over a second; and a way out of it. */
export function GoingOn() {
  const first = useSyncExternalStore(goingOn.subscribe, goingOn.list)[0];
  return first ? <Waited key={first.since} going={first} /> : null;
}

function Waited({ going }: { going: Going }) {
  const [now, setNow] = useState(going.since);
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), long);
    return () => clearInterval(timer);
  }, []);
  const { progress } = going;
  const seconds = Math.floor((now - going.since) / 1000);
  if (seconds < 1) return null;
  return (
    <div className="going-on">
      <LinearProgress
        aria-label={going.words}
        {...(progress && {
          variant: "determinate",
          value: (100 * progress.done) / Math.max(progress.total, 1),
        })}
      />
      <span role="status">{going.words}…</span>
      {progress && (
        <span>
          {progress.what}: {progress.done.toLocaleString("en")} of{" "}
          {progress.total.toLocaleString("en")}
        </span>
      )}
      <span className="soft" aria-hidden="true">
        {seconds} s
      </span>
      {going.stop && (
        <Button color="secondary" onClick={going.stop}>
          Stop
        </Button>
      )}
    </div>
  );
}
