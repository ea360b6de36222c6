import { startTransition, useEffect, useState } from "react";

/** Whether the browser has had time since this was first drawn: for what takes long to draw and is
 *  seldom needed. It is worked out in slices then. */
export function useIdle(): boolean {
  const [idle, setIdle] = useState(false);
  useEffect(() => {
    const soon = () => startTransition(() => setIdle(true));
    // Not every browser tells when it has time.
    if (!("requestIdleCallback" in window)) {
      const timer = setTimeout(soon, 200);
      return () => clearTimeout(timer);
    }
    const asked = requestIdleCallback(soon, { timeout: 1000 });
    return () => cancelIdleCallback(asked);
  }, []);
  return idle;
}
