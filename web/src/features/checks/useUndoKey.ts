import { useEffect, useRef } from "react";
import { ask, sentenceOf } from "../../api/client";
import { t } from "../../words/words";

/** Takes back the last thing that was mended here with Ctrl+Z; gives what is to be told of each change that can be taken back. */
export function useUndoKey(onSay: (words: string) => void, again: () => void) {
  const done = useRef<number[]>([]);
  useEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      const from = event.target instanceof HTMLElement ? event.target : document.body;
      if (!(event.ctrlKey || event.metaKey) || event.key !== "z" || from.closest("input, textarea, [role=dialog]"))
        return;
      const change = done.current.pop();
      if (change === undefined) return;
      event.preventDefault();
      ask(`/api/changes/${change}/undo`, { method: "POST" })
        .then(() => onSay(t("checks.undone")))
        .catch((failure: unknown) => onSay(sentenceOf(failure)))
        .finally(again);
    };
    document.addEventListener("keydown", pressed);
    return () => document.removeEventListener("keydown", pressed);
  });
  return (change: number) => {
    done.current.push(change);
  };
}
