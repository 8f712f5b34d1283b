import { ask, sentenceOf, type Schemas } from "../../api/client";
import type { RowStore } from "../../sheet/rowStore";
import { undoing } from "../../sheet/undoing";
import { versionIn } from "../../sheet/useCellChanges";
import { t } from "../../words/words";

const asked = new Set<string>();

/** Has an untranslated cell drafted by the service that drafts its language; what came of it, in a sentence. A second press while one is asked asks nobody. */
export async function drafting(store: RowStore, entry: number, language: string): Promise<string> {
  const cell = `${entry} ${language}`;
  if (asked.has(cell)) return t("draft.asking");
  asked.add(cell);
  try {
    await store.loaded(entry);
    const order = undoing.next();
    const done = await ask<Schemas["CellChanged"]>(
      `/api/entries/${entry}/cells/${encodeURIComponent(language)}/draft`,
      {
        method: "POST",
        json: { version: versionIn(store, entry, language) ?? 0 },
      },
    );
    undoing.did({ change: done.change, entries: [entry] }, order);
    await store.refresh([entry]);
    return t("draft.done");
  } catch (failure) {
    return sentenceOf(failure);
  } finally {
    asked.delete(cell);
  }
}
