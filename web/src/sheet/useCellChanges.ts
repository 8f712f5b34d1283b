import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useMemo } from "react";
import { ask, type Schemas } from "../api/client";
import { announce } from "../parts/announce";
import { t } from "../words/words";
import { outbox } from "./outbox/outbox";
import type { Change, Seen } from "./outbox/slip";
import type { RowStore } from "./rowStore";
import { undoing } from "./undoing";

export type { Change };

/** What an editor saw when it opened, and its number in the outbox. */
export interface Editor {
  id: string;
  seen: Seen;
}

export interface CellChanges {
  /**
   * Sends a change of a cell. A text is shown at once, kept in the browser until the server has it, and never lost when that fails; when the server
   * does not answer it is sent again by itself.
   * @param editor - the editor that ends with it; what the person saw is what is here now when there is none
   * @returns what went wrong, in a sentence, or null
   */
  change(entry: number, language: string, change: Change, editor?: Editor): Promise<string | null>;
  /** Changes many cells as one change. What rules stand against stays as it is, and the reply says so. */
  many(
    action: Change["action"],
    cells: Schemas["One"][],
    how?: Schemas["ManyChanges"]["how"],
  ): Promise<Schemas["Many"]>;
}

/** Changes cells with the version that the person saw; a text that cannot be saved stays in sight with the reason. */
export function useCellChanges(store: RowStore): CellChanges {
  const queries = useQueryClient();

  const change = useCallback<CellChanges["change"]>(
    async (entry, language, wanted, editor) => {
      const seen = editor?.seen ?? outbox.seen(entry, language, versionIn(store, entry, language));
      const version = async () => {
        // Someone quick may type before the row has arrived; its version comes with it.
        await store.loaded(entry);
        return versionIn(store, entry, language) ?? 0;
      };
      const outcome = await outbox.change(entry, language, wanted, seen, editor?.id ?? null, version);
      if (outcome.done && !outcome.lowered) announce(t(`said.${wanted.action}`));
      if (outcome.done) return outcome.lowered || null;
      return outcome.waits ? null : outcome.why;
    },
    [store],
  );

  const many = useCallback<CellChanges["many"]>(
    async (action, cells, how) => {
      const order = undoing.next();
      const body: Schemas["ManyChanges"] = { action, cells, how, meaningConfirmed: false };
      const asked = ask<Schemas["Many"]>("/api/cells/changes", { method: "POST", json: body });
      const done = await outbox.during(asked);
      const entries = [...new Set(cells.map((cell) => cell.entry))];
      if (done.changed > 0) undoing.did({ change: done.change, entries }, order);
      await store.refresh(entries);
      void queries.invalidateQueries({ queryKey: ["tables"] });
      void queries.invalidateQueries({ queryKey: ["story"] });
      return done;
    },
    [store, queries],
  );

  return useMemo(() => ({ change, many }), [change, many]);
}

/** The version of a cell that is here; undefined while its row is not. */
export function versionIn(store: RowStore, entry: number, language: string): number | undefined {
  return store.row(entry) && (store.cell(entry, language)?.version ?? 0);
}
