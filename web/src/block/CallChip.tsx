import { useSnackbar } from "notistack";

/** How something is called; a click copies it. */
export function CallChip({ call }: { call: string }) {
  const { enqueueSnackbar } = useSnackbar();
  const copy = () => { navigator.clipboard.writeText(call).then(() => enqueueSnackbar(`Copied ${call}`), () => enqueueSnackbar("The browser does not let this page copy; select the call instead", { variant: "warning" })); };
  return <button type="button" className="call-chip" aria-label={`Copy the call ${call}`} title="Copy the call" onClick={copy}>{call}</button>;
}
