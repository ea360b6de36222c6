import Button from "@mui/material/Button";

/** What a file that was read says and cannot be taken. */
export function Misfits({ list, close }: { list: string[]; close: () => void }) {
  if (list.length === 0) return null;
  const one = list.length === 1;
  return (
    <div className="misfits" role="alert">
      <b>
        {one ? "This does" : `These ${list.length} do`} not fit, and nothing is set by{" "}
        {one ? "it" : "them"}:
      </b>{" "}
      <Button size="small" onClick={close}>
        Close
      </Button>
      <ul>
        {list.slice(0, 200).map((m) => (
          <li key={m}>{m}</li>
        ))}
      </ul>
    </div>
  );
}
