import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useMemo } from "react";
import { ask, Refused, sentenceOf, Unreachable, type Schemas } from "../../api/client";
import { t } from "../../words/words";
import type { CellView, RowStore } from "./rowStore";
import { formsOf, mainForm, sameForms } from "./shapes";
import { undoing } from "./undoing";
import { unsaved, type Unsaved } from "./unsaved";
import { waiting } from "./waiting";

export type Change = Omit<Schemas["CellChange"], "version" | "meaningConfirmed"> & { meaningConfirmed?: boolean };

export interface CellChanges {
  /**
   * Sends a change of a cell. A text is shown at once, kept in the browser until the server has it, and never lost when that fails; when the server
   * does not answer it is sent again by itself.
   * @param version - the version that the person saw; the newest one when it is not given
   * @returns what went wrong, in a sentence, or null
   */
  change(entry: number, language: string, change: Change, version?: number): Promise<string | null>;
  /** Sends again what an earlier page could not send. */
  resend(kept: Unsaved): void;
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

  const send = useCallback(
    async (entry: number, language: string, wanted: Change, version: number): Promise<string | null> => {
      const body = { meaningConfirmed: false, ...wanted, version };
      const path = `/api/entries/${entry}/cells/${encodeURIComponent(language)}/changes`;
      const changed = await ask<Schemas["CellChanged"]>(path, { method: "POST", json: body });
      store.setCell(entry, changed.cell);
      undoing.did({ change: changed.change, entries: [entry] });
      unsaved.drop(entry, language);
      store.setPending(entry, language, null);
      void queries.invalidateQueries({ queryKey: ["tables"] });
      void queries.invalidateQueries({ queryKey: ["story", entry, language] });
      return changed.lowered ? t("cell.lowered", { why: changed.lowered.join(" ") }) : null;
    },
    [store, queries],
  );

  /** Sends it now and, while nobody answers, again and again. */
  const deliver = useCallback(
    async (entry: number, language: string, wanted: Change, version: number): Promise<string | null> => {
      const name = `${entry} ${language}`;
      waiting.drop(name);
      const attempt = async (): Promise<string | null | undefined> => {
        try {
          return await send(entry, language, wanted, version);
        } catch (failure) {
          if (!notAnswered(failure)) return failed(store, entry, language, wanted, failure);
          keepWaiting(store, entry, language, wanted, failure);
          return undefined;
        }
      };
      const outcome = await attempt();
      if (outcome !== undefined) return outcome;
      waiting.add(name, async () => ((await attempt()) === undefined ? "again" : "done"));
      return null;
    },
    [store, send],
  );

  const change = useCallback(
    async (entry: number, language: string, wanted: Change, seen?: number): Promise<string | null> => {
      const text = wanted.text ?? (wanted.forms ? mainForm(wanted.forms) : undefined);
      const forms = wanted.forms;
      if (text !== undefined) {
        // Without a version nothing is sent by itself after a reload: it could replace newer work.
        const sending = seen === undefined ? undefined : { action: wanted.action, version: seen, offer: wanted.offer };
        unsaved.keep({ entry, language, text, forms, sending });
        store.setPending(entry, language, { text, forms, status: "saving" });
      }
      // Someone quick may type before the row has arrived; its version comes with it.
      await store.loaded(entry);
      const version = seen ?? store.cell(entry, language)?.version ?? 0;
      return deliver(entry, language, wanted, version);
    },
    [store, deliver],
  );

  const resend = useCallback(
    ({ entry, language, text, forms, sending }: Unsaved) => {
      if (!sending) return;
      const what = forms ? { forms } : { text };
      const wanted: Change = { action: sending.action as Change["action"], offer: sending.offer, ...what };
      void deliver(entry, language, wanted, sending.version);
    },
    [deliver],
  );

  const many = useCallback<CellChanges["many"]>(
    async (action, cells, how) => {
      const body: Schemas["ManyChanges"] = { action, cells, how, meaningConfirmed: false };
      const done = await ask<Schemas["Many"]>("/api/cells/changes", { method: "POST", json: body });
      const entries = [...new Set(cells.map((cell) => cell.entry))];
      if (done.changed > 0) undoing.did({ change: done.change, entries });
      await store.refresh(entries);
      void queries.invalidateQueries({ queryKey: ["tables"] });
      void queries.invalidateQueries({ queryKey: ["story"] });
      return done;
    },
    [store, queries],
  );

  return useMemo(() => ({ change, resend, many }), [change, resend, many]);
}

/** Whether trying again later may help: there was no answer, nobody is signed in any more, or the server is not itself. */
function notAnswered(failure: unknown): boolean {
  return (
    failure instanceof Unreachable || (failure instanceof Refused && [401, 502, 503, 504].includes(failure.status))
  );
}

function keepWaiting(store: RowStore, entry: number, language: string, wanted: Change, failure: unknown): void {
  if (wanted.text === undefined && !wanted.forms) return;
  const text = wanted.text ?? mainForm(wanted.forms ?? {});
  const sentence = t("cell.triedAgain", { why: sentenceOf(failure) });
  store.setPending(entry, language, { text, forms: wanted.forms, status: "waiting", sentence });
}

/** Whether a cell has the very text that was to be put there, in force or on offer. */
function says(cell: CellView, wanted: Change): boolean {
  if (wanted.text === undefined && !wanted.forms) return false;
  const forms = formsOf(wanted.text, wanted.forms);
  return [cell, ...cell.offers].some((one) => sameForms(formsOf(one.text, one.forms), forms));
}

function failed(store: RowStore, entry: number, language: string, wanted: Change, failure: unknown): string | null {
  const theirs =
    failure instanceof Refused && failure.code === "cell-moved-on" ? (failure.details.cell as CellView) : undefined;
  if (theirs) {
    store.setCell(entry, theirs);
    // Sent twice, as when one goes elsewhere while it is on its way: the first one arrived.
    if (says(theirs, wanted)) {
      unsaved.drop(entry, language);
      store.setPending(entry, language, null);
      return null;
    }
  }
  const sentence = sentenceOf(failure);
  const text = wanted.text ?? (wanted.forms ? mainForm(wanted.forms) : undefined);
  if (text !== undefined) {
    const { forms } = wanted;
    // It waits for a decision now; sending it again by itself would fail again.
    unsaved.keep({ entry, language, text, forms });
    store.setPending(entry, language, { text, forms, status: theirs ? "conflict" : "failed", sentence, theirs });
  }
  return sentence;
}
