import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useMemo } from "react";
import { atMostEvery, useLive, type LiveChange } from "../../live/live";
import type { RowStore } from "../../sheet/rowStore";

const COUNTED_EVERY_MS = 500;

/** Has the sheet follow what changes elsewhere: rows, stories and questions at once, counters now and then. */
export function useSheetLive(store: RowStore, tables: { id: number }[]): void {
  const queries = useQueryClient();
  const ids = tables.map((table) => table.id).join(",");
  const countAgain = useMemo(
    () => atMostEvery(COUNTED_EVERY_MS, () => void queries.invalidateQueries({ queryKey: ["tables"] })),
    [queries],
  );
  useLive(
    useCallback(
      (change: LiveChange) => {
        if (change.table === 0 || ids.split(",").includes(String(change.table))) {
          void store.refresh(change.entries);
          for (const entry of change.entries) {
            void queries.invalidateQueries({ queryKey: ["story", entry] });
            void queries.invalidateQueries({ queryKey: ["questions", entry] });
          }
        }
        countAgain();
      },
      [store, queries, ids, countAgain],
    ),
  );
}
