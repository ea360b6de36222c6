import { Navigate, useNavigation } from "react-router";

/** Leads on to where a place without a name of its own begins, but not for one who is on the way to
 *  another place: what comes late must not call anybody back. */
export function Onward({ to }: { to: string }) {
  const { state } = useNavigation();
  return state === "idle" ? <Navigate to={to} replace /> : null;
}
