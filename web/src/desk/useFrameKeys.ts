import { useEffect, useState } from "react";

/** The parts of every screen in the order in which F6 goes round, and what takes the focus in each, the best first; a part that a screen lacks is passed over. */
const PARTS = [
  { within: ".sentence", at: [".sentence a", ".sentence button"] },
  { within: ".tabs", at: [".tabs a.active", ".tabs a"] },
  { within: "main.book", at: ["[role=grid]", ".strips article[tabindex='0']", "main.book"] },
  { within: ".footnotes", at: [".footnotes"] },
];

/** Keys that every screen has: "?" shows all keys, F6 goes to the next part of the screen, with Shift to the one before. */
export function useFrameKeys() {
  const [keys, setKeys] = useState(false);
  useEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      const from = event.target instanceof HTMLElement ? event.target : document.body;
      // The sheet has these keys itself, and a dialog keeps the keyboard.
      if (event.defaultPrevented || from.closest("[role=dialog]")) return;
      if (event.key === "?" && !from.closest("input, textarea, [role=grid]")) {
        event.preventDefault();
        setKeys(true);
      }
      if (event.key === "F6") {
        event.preventDefault();
        goRound(from, event.shiftKey ? -1 : 1);
      }
    };
    document.addEventListener("keydown", pressed);
    return () => document.removeEventListener("keydown", pressed);
  }, []);
  return { keys, closeKeys: () => setKeys(false) };
}

function goRound(from: HTMLElement, by: 1 | -1): void {
  // The innermost part counts: footnotes stand in the book. Who is in none comes from behind the last.
  const found = PARTS.findLastIndex(({ within }) => from.closest(within));
  const now = found < 0 ? (by > 0 ? PARTS.length - 1 : 0) : found;
  for (let step = 1; step <= PARTS.length; step++) {
    const next = PARTS[(now + by * step + PARTS.length * step) % PARTS.length];
    const part = next?.at.map((css) => document.querySelector<HTMLElement>(css)).find((one) => one !== null);
    if (part) {
      part.focus();
      return;
    }
  }
}
