import { useEffect, useState } from "react";

/** The value once it has not changed for `ms`; the first one at once. */
export function useResting<T extends string | number | undefined>(value: T, ms: number): T {
  const [resting, setResting] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setResting(value), ms);
    return () => clearTimeout(timer);
  }, [value, ms]);
  return resting;
}
