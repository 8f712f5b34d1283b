import { useEffect, useState } from "react";

/** The value once it has been the same one for `ms`; the first one at once. */
export function useResting<T>(value: T, ms: number): T {
  const [resting, setResting] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setResting(value), ms);
    return () => clearTimeout(timer);
  }, [value, ms]);
  return resting;
}
