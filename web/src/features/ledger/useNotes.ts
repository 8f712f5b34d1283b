import { useQuery, useQueryClient } from "@tanstack/react-query";
import { ask, type Schemas } from "../../api/client";
import { formsShown } from "../../sheet/cellShown";
import type { RowStore } from "../../sheet/rowStore";
import { MEMORY } from "../../text/memory";
import { CHECK } from "../../text/useCheck";
import { placesKey } from "../code";

/**
 * Asks for everything that the footnotes say of a cell at once and gives it to those who say it; what changes afterwards each of them asks for by
 * itself, and all of it when this could not be had.
 *
 * @returns whether the footnotes can be shown
 */
export function useNotes(store: RowStore, entry: number, language: string): boolean {
  const queries = useQueryClient();
  const asked = useQuery({
    queryKey: ["notes", entry, language],
    queryFn: async ({ signal }) => {
      await store.loaded(entry);
      const cell = store.cell(entry, language);
      const forms = formsShown(cell, store.pending(entry, language));
      const path = `/api/entries/${entry}/cells/${encodeURIComponent(language)}/notes`;
      const notes = await ask<Schemas["Notes"]>(path, { method: "POST", json: { forms }, signal });
      queries.setQueryData([MEMORY, entry, language], notes.memory);
      queries.setQueryData([CHECK, entry, language, forms], notes.check);
      queries.setQueryData(["story", entry, language, cell?.version ?? 0], notes.story);
      queries.setQueryData(["questions", entry], notes.questions);
      queries.setQueryData(["scenes", "of", entry], notes.scenes);
      queries.setQueryData(placesKey(entry), notes.code);
      return true;
    },
    staleTime: 30_000,
    retry: false,
  });
  return !asked.isPending;
}
