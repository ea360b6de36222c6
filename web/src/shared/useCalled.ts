import { useCallback } from "react";
import { useOverview, useSite } from "../api/queries";
import { placeOf } from "./placeOf";

const nothing = { blocks: [], pages: [], drafts: [], titles: {} };

/** What a document is called, by its path. */
export function useCalled(): (path: string) => string {
  const site = useSite();
  const { data } = useOverview();
  return useCallback((path: string) => placeOf(site, path, data ?? nothing).title, [site, data]);
}

/** What a rule is called, by its name. */
export function useRuleCalled(): (rule: string) => string {
  const called = useCalled();
  return useCallback((rule: string) => called(`rules/${rule}.yaml`), [called]);
}
