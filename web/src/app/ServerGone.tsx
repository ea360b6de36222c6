import { useSyncExternalStore } from "react";
import { connection } from "../api/connection";
import { Say } from "../shared/Say";

/** Said while the server does not answer: what is being edited stays, and it is tried again. */
export function ServerGone() {
  const gone = useSyncExternalStore(connection.subscribe, connection.gone);
  if (!gone) return null;
  return (
    <Say tone="bad">
      <b>The server does not answer.</b> What you edit stays in this browser; it is tried again
      every few seconds.
    </Say>
  );
}
