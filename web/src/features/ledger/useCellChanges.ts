import { useQueryClient } from "@tanstack/react-query";
import { useCallback } from "react";
import { ask, Refused, sentenceOf, type Schemas } from "../../api/client";
import type { CellView, RowStore } from "./rowStore";
import { mainForm } from "./shapes";
import { undoing } from "./undoing";
import { unsaved } from "./unsaved";

export type Change = Omit<Schemas["CellChange"], "version" | "meaningConfirmed"> & { meaningConfirmed?: boolean };

export interface CellChanges {
  /**
   * Sends a change of a cell. A text is shown at once, kept in the browser until the server has it, and never lost when that fails.
   * @param version - the version that the person saw; the newest one when it is not given
   * @returns what went wrong, in a sentence, or null
   */
  change(entry: number, language: string, change: Change, version?: number): Promise<string | null>;
}

/** Changes cells with the version that the person saw; a text that cannot be saved stays in sight with the reason. */
export function useCellChanges(store: RowStore): CellChanges {
  const queries = useQueryClient();
  const change = useCallback(
    async (entry: number, language: string, wanted: Change, seen?: number): Promise<string | null> => {
      const text = wanted.text ?? (wanted.forms ? mainForm(wanted.forms) : undefined);
      const forms = wanted.forms;
      if (text !== undefined) {
        unsaved.keep(entry, language, text, forms);
        store.setPending(entry, language, { text, forms, status: "saving" });
      }
      // Someone quick may type before the row has arrived; its version comes with it.
      await store.loaded(entry);
      const version = seen ?? store.cell(entry, language)?.version ?? 0;
      try {
        const body = { meaningConfirmed: false, ...wanted, version };
        const path = `/api/entries/${entry}/cells/${encodeURIComponent(language)}/changes`;
        const changed = await ask<Schemas["CellChanged"]>(path, { method: "POST", json: body });
        store.setCell(entry, changed.cell);
        undoing.did({ change: changed.change, entries: [entry] });
        unsaved.drop(entry, language);
        store.setPending(entry, language, null);
        void queries.invalidateQueries({ queryKey: ["tables"] });
        void queries.invalidateQueries({ queryKey: ["story", entry, language] });
        return null;
      } catch (failure) {
        return failed(store, entry, language, { text, forms }, failure);
      }
    },
    [store, queries],
  );
  return { change };
}

function failed(
  store: RowStore,
  entry: number,
  language: string,
  kept: Pick<Change, "text" | "forms">,
  failure: unknown,
): string {
  const theirs =
    failure instanceof Refused && failure.code === "cell-moved-on" ? (failure.details.cell as CellView) : undefined;
  if (theirs) {
    store.setCell(entry, theirs);
  }
  const sentence = sentenceOf(failure);
  if (kept.text !== undefined) {
    const { text, forms } = kept;
    store.setPending(entry, language, { text, forms, status: theirs ? "conflict" : "failed", sentence, theirs });
  }
  return sentence;
}
