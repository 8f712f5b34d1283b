import { useCallback } from "react";
import { useSearchParams } from "react-router";

/**
 * What a screen looks at, as it stands in its address, so that it can be shared and outlives a reload.
 *
 * @returns the address's query, and what changes parts of it in place; an empty value takes a part out
 */
export function useAddress(): [URLSearchParams, (parts: Record<string, string>) => void] {
  const [query, setQuery] = useSearchParams();
  const put = useCallback(
    (parts: Record<string, string>) =>
      setQuery(
        (before) => {
          const next = new URLSearchParams(before);
          for (const [name, value] of Object.entries(parts)) {
            if (value) next.set(name, value);
            else next.delete(name);
          }
          return next;
        },
        { replace: true },
      ),
    [setQuery],
  );
  return [query, put];
}
