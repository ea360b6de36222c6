import { useMemo } from "react";
import { useOverview, useReference } from "../../api/queries";
import type { Choices } from "./choices";

/** What fields can be given: the site's pages, menus and files. */
export function useChoices(): Choices {
  const overview = useOverview();
  const reference = useReference();
  return useMemo(
    () => ({
      pages: overview.data?.pages.map((p) => ({ value: p.path, title: p.title })) ?? [],
      menus: reference.data?.menus.map((m) => ({ value: m.name, title: m.title })) ?? [],
      assets: reference.data?.assets ?? [],
    }),
    [overview.data, reference.data],
  );
}
