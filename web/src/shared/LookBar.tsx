import { useLook } from "../api/look";

/** As whom and on which day one looks at the pages beside it. */
export function LookBar() {
  const [look, set] = useLook();
  return (
    <span className="look-bar">
      <label>
        as{" "}
        <select
          aria-label="Look as"
          value={look.signedIn ? "signed-in" : "signed-out"}
          onChange={(e) => set({ signedIn: e.target.value === "signed-in" })}
        >
          <option value="signed-out">signed out</option>
          <option value="signed-in">signed in</option>
        </select>
      </label>
      <label>
        on{" "}
        <input
          type="date"
          aria-label="Look on a day"
          value={look.on}
          onChange={(e) => set({ on: e.target.value })}
        />
      </label>
    </span>
  );
}
