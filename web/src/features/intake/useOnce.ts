import { useRef } from "react";

/** Sends a text that is not what was there or was sent last: Enter sends it, and the blur that follows would again. */
export function useOnce(was: string, send: (text: string) => void): (text: string) => void {
  const last = useRef(was);
  return (text) => {
    if (text === last.current) return;
    last.current = text;
    send(text);
  };
}
