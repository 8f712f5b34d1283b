import { useQueryClient } from "@tanstack/react-query";
import { useCallback } from "react";
import { ask, Refused, sentenceOf, type Schemas } from "../../api/client";
import type { CellView, RowStore } from "./rowStore";
import { unsaved } from "./unsaved";

export type Change = Omit<Schemas["CellChange"], "version" | "meaningConfirmed"> & { meaningConfirmed?: boolean };

export interface CellChanges {
  /**
   * Sends a change of a cell. A text is shown at once, kept in the browser until the server has it, and never lost when that fails.
   * @returns what went wrong, in a sentence, or null
   */
  change(entry: number, language: string, change: Change): Promise<string | null>;
}

/** Changes cells with the version that the person saw; a text that cannot be saved stays in sight with the reason. */
export function useCellChanges(store: RowStore): CellChanges {
  const queries = useQueryClient();
  const change = useCallback(
    async (entry: number, language: string, wanted: Change): Promise<string | null> => {
      const text = wanted.text;
      if (text !== undefined) {
        unsaved.keep(entry, language, text);
        store.setPending(entry, language, { text, status: "saving" });
      }
      // Someone quick may type before the row has arrived; its version comes with it.
      await store.loaded(entry);
      const version = store.cell(entry, language)?.version ?? 0;
      try {
        const body = { meaningConfirmed: false, ...wanted, version };
        const path = `/api/entries/${entry}/cells/${encodeURIComponent(language)}/changes`;
        store.setCell(entry, await ask<CellView>(path, { method: "POST", json: body }));
        unsaved.drop(entry, language);
        store.setPending(entry, language, null);
        void queries.invalidateQueries({ queryKey: ["tables"] });
        void queries.invalidateQueries({ queryKey: ["story", entry, language] });
        return null;
      } catch (failure) {
        return failed(store, entry, language, text, failure);
      }
    },
    [store, queries],
  );
  return { change };
}

function failed(store: RowStore, entry: number, language: string, text: string | undefined, failure: unknown): string {
  const theirs =
    failure instanceof Refused && failure.code === "cell-moved-on" ? (failure.details.cell as CellView) : undefined;
  if (theirs) {
    store.setCell(entry, theirs);
  }
  const sentence = sentenceOf(failure);
  if (text !== undefined) {
    store.setPending(entry, language, { text, status: theirs ? "conflict" : "failed", sentence, theirs });
  }
  return sentence;
}
