import { Link } from "react-router";
import { useSite } from "../api/queries";

export function RuleLink({ rule }: { rule: string }) {
  const site = useSite();
  return <Link to={`/${site}/rules/${rule}`}>{rule}</Link>;
}
