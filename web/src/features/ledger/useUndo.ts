import { useCallback } from "react";
import { sentenceOf } from "../../api/client";
import { announce } from "../../parts/announce";
import { outbox } from "../../sheet/outbox/outbox";
import type { RowStore } from "../../sheet/rowStore";
import { saidOf, undoing } from "../../sheet/undoing";
import { t } from "../../words/words";

/** Takes one's last change back, or does it again. What is on its way comes first: the last change is taken back, not the one before it. */
export function useUndo(
  store: RowStore,
  onSay: (sentence: string) => void,
  onEntries: () => void,
): (again: boolean) => void {
  return useCallback(
    (again: boolean) => {
      outbox
        .rest()
        .then(() => (again ? undoing.redo() : undoing.undo()))
        .then((undone) => {
          if (!undone) {
            onSay(t(again ? "undo.nothingAgain" : "undo.nothing"));
            return;
          }
          const there = undone.entries.every((entry) => store.row(entry)?.removed === false);
          if (there) void store.refresh(undone.entries);
          else onEntries();
          const said = saidOf(undone);
          if (said) onSay(said);
          else announce(t(again ? "undo.doneAgain" : "undo.done"));
        })
        .catch((failure: unknown) => onSay(sentenceOf(failure)));
    },
    [store, onSay, onEntries],
  );
}
