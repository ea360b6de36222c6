import { Choice } from "./Choice";

/** The choice of another one of its kind, in the head of a place. */
export function PickOne({
  label,
  value,
  all,
  choose,
}: {
  label: string;
  value: string;
  all: { name: string; title: string }[];
  choose: (name: string) => void;
}) {
  return (
    <span className="new-rule" style={{ marginLeft: "auto" }}>
      {label}{" "}
      <Choice
        label={label}
        value={value}
        choose={choose}
        options={all.map((one) => [one.name, one.title])}
      />
    </span>
  );
}
