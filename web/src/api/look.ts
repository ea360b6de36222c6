import { useCallback } from "react";
import { useSearchParams } from "react-router";
import type { Overview } from "./client";

/** As whom, and on which day, one looks at pages: signed in or not; "" for today. */
export interface Look {
  signedIn: boolean;
  on: string;
}

/** What a question to the server says of a look. */
export function asked(look: Look) {
  return {
    ...(look.signedIn && { audience: "signed-in" as const }),
    ...(look.on && { on: look.on }),
  };
}

/** What the address of a preview says of a look. */
function lookQuery(look: Look): string {
  const q = new URLSearchParams();
  if (look.signedIn) q.set("shelf-as", "signed-in");
  if (look.on) q.set("shelf-on", look.on);
  const text = q.toString();
  return text && `?${text}`;
}

/** Where a page is shown as the draft has it, or as a proposed edit would. Each state of
 *  the draft has an address of its own, so that what is shown follows it. */
export function previewOf(
  overview: Overview,
  page: string,
  proposal: string,
  look: Look = { signedIn: false, on: "" },
): string {
  const query = lookQuery(look);
  if (proposal) return `${overview.site_origin}/_edit/${proposal}${page}${query}`;
  return `${overview.site_origin}/_draft${page}${query}${query ? "&" : "?"}shelf-state=${overview.version}`;
}

/** The look that the address of the tool says, and a way to change it. */
export function useLook(): [Look, (part: Partial<Look>) => void] {
  const [params, setParams] = useSearchParams();
  const set = useCallback(
    (part: Partial<Look>) =>
      setParams(
        (p) => {
          const put = (key: string, value: string | undefined) => {
            if (value) p.set(key, value);
            else if (value === "") p.delete(key);
          };
          put("as", part.signedIn === undefined ? undefined : part.signedIn ? "signed-in" : "");
          put("on", part.on);
          return p;
        },
        { replace: true },
      ),
    [setParams],
  );
  return [{ signedIn: params.get("as") === "signed-in", on: params.get("on") ?? "" }, set];
}
