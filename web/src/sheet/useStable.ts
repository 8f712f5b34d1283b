import { useCallback, useLayoutEffect, useRef } from "react";

/** A function that stays the same while what it does follows the newest render: what is given it is not drawn again for its sake. */
export function useStable<A extends unknown[], R>(act: (...args: A) => R): (...args: A) => R {
  const latest = useRef(act);
  useLayoutEffect(() => {
    latest.current = act;
  });
  return useCallback((...args: A) => latest.current(...args), []);
}
