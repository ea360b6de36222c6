import { Suspense } from "react";
import { useLook } from "../api/look";
import { Choice } from "./Choice";
import { useIdle } from "./useIdle";
import { DateInput } from "./fields/laterDate";

/** As whom and on which day one looks at the pages beside it. */
export function LookBar() {
  const [look, set] = useLook();
  const idle = useIdle();
  return (
    <span className="look-bar">
      <span>
        as{" "}
        <Choice
          label="Look as"
          value={look.signedIn ? "signed-in" : "signed-out"}
          choose={(v) => set({ signedIn: v === "signed-in" })}
          options={[
            ["signed-out", "signed out"],
            ["signed-in", "signed in"],
          ]}
        />
      </span>
      <span className="day">
        on{" "}
        <span className="day-field">
          {idle && (
            <Suspense>
              <DateInput bare label="Look on a day" value={look.on} change={(on) => set({ on })} />
            </Suspense>
          )}
        </span>
      </span>
    </span>
  );
}
