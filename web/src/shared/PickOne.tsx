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
    <label className="new-rule" style={{ marginLeft: "auto" }}>
      {label}{" "}
      <select value={value} onChange={(e) => choose(e.target.value)}>
        {all.map((one) => (
          <option key={one.name} value={one.name}>
            {one.title}
          </option>
        ))}
      </select>
    </label>
  );
}
