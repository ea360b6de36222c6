import Tab from "@mui/material/Tab";
import MuiTabs from "@mui/material/Tabs";

/** A row of tabs, moved through with the arrow keys: the one that has the focus is shown. */
export function Tabs<T extends string>({
  label,
  tabs,
  value,
  choose,
  className,
}: {
  label: string;
  tabs: readonly (readonly [T, string])[];
  value: T;
  choose: (t: T) => void;
  className?: string;
}) {
  return (
    <MuiTabs
      aria-label={label}
      className={className ?? "tabs"}
      value={value}
      onChange={(_, t: T) => choose(t)}
      selectionFollowsFocus
      variant="scrollable"
      scrollButtons={false}
    >
      {tabs.map(([t, title]) => (
        <Tab key={t} value={t} label={title} />
      ))}
    </MuiTabs>
  );
}
