import { useDeferredValue, type ReactNode } from "react";

/** Draws what is large in slices, so that keys and clicks are not kept waiting for it; until it
 *  stands, what stands for it. What comes from the server would else be drawn in one go. */
export function Sliced({ children, before = null }: { children: ReactNode; before?: ReactNode }) {
  const stands = useDeferredValue(true, false);
  return stands ? children : before;
}
