import { useEffect, useState } from "react";

const PAUSE_MS = 350;

/** A value that is being changed, as it is when it has stood still for a moment: what is typed asks for nothing before. */
export function useSettled<T>(value: T): T {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), PAUSE_MS);
    return () => clearTimeout(timer);
  }, [value]);
  return settled;
}
