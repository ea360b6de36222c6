import { Tabs } from "./Tabs";

/** Chooses whether a row of calls is shown as its text or as a list. */
export function AsList({ on, set }: { on: boolean; set: (on: boolean) => void }) {
  return (
    <Tabs
      label="How it is shown"
      className=""
      value={on ? "list" : "text"}
      choose={(v) => set(v === "list")}
      tabs={[
        ["text", "As text"],
        ["list", "As a list"],
      ]}
    />
  );
}
