import { useCallback } from "react";
import { useSearchParams } from "react-router";

/** Puts a value under a key of the address, in place of what stands there in the history. */
export function usePut() {
  const [, setParams] = useSearchParams();
  return useCallback(
    (key: string, value: string) =>
      setParams(
        (p) => {
          p.set(key, value);
          return p;
        },
        { replace: true },
      ),
    [setParams],
  );
}
