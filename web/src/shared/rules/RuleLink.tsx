import { Link } from "react-router";
import { useSite } from "../../api/queries";
import { useRuleCalled } from "../useCalled";

export function RuleLink({ rule }: { rule: string }) {
  const site = useSite();
  const called = useRuleCalled();
  return (
    <Link to={`/${site}/rules/${rule}`} dir="auto">
      {called(rule)}
    </Link>
  );
}
