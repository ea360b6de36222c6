import { tell } from "../notices";

/** How something is called; a click copies it. */
export function CallChip({ call }: { call: string }) {
  const copy = () => {
    navigator.clipboard.writeText(call).then(
      () => tell(`Copied ${call}`),
      () => tell("The browser does not let this page copy; select the call instead", "warning"),
    );
  };
  return (
    <button
      type="button"
      className="call-chip"
      aria-label={`Copy the call ${call}`}
      title="Copy the call"
      onClick={copy}
    >
      {call}
    </button>
  );
}
