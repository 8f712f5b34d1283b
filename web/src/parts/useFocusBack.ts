import { useEffect, useRef, type FocusEvent } from "react";

/**
 * Gives the focus back to the field that had it, when fields that could not be used for a moment can be used again: a browser takes the focus from
 * what is disabled.
 *
 * @param busy - whether the fields cannot be used just now
 * @returns what the element around the fields has to be given
 */
export function useFocusBack(busy: boolean): { onFocus: (event: FocusEvent<HTMLElement>) => void } {
  const last = useRef<HTMLElement | null>(null);
  const around = useRef<HTMLElement | null>(null);
  useEffect(() => {
    if (busy || !last.current || !around.current || document.activeElement !== document.body) return;
    sameAs(last.current, around.current)?.focus();
  }, [busy]);
  return {
    onFocus: (event) => {
      around.current = event.currentTarget;
      last.current = event.target as HTMLElement;
    },
  };
}

/** The element itself, or the one that took its place under the same name. */
function sameAs(element: HTMLElement, around: HTMLElement): HTMLElement | undefined {
  if (element.isConnected) return element;
  const name = nameOf(element);
  const all = around.querySelectorAll<HTMLElement>(element.tagName);
  return name === "" ? undefined : [...all].find((other) => nameOf(other) === name);
}

function nameOf(element: HTMLElement): string {
  return element.getAttribute("aria-label") ?? element.getAttribute("aria-labelledby") ?? element.id;
}
