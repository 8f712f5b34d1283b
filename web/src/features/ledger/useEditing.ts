import { useCallback, useEffect, useRef, useState } from "react";
import type { Schemas } from "../../api/client";
import { t } from "../../words/words";
import type { EditEnd } from "./CellEditor";
import { Draft } from "./draft";
import type { Entries } from "./entries";
import type { Command, Place } from "./keyboard";
import { takesText } from "./pasting";
import type { RowStore } from "./rowStore";
import { fieldsOf, formsOf, mainForm, MAIN, sameForms, type Forms } from "./shapes";
import type { Editing } from "./SpreadRow";
import { unsaved } from "./unsaved";
import type { CellChanges } from "./useCellChanges";
import { waiting } from "./waiting";

interface Options {
  entries: Entries;
  store: RowStore;
  languages: Schemas["LanguageReply"][];
  keptBy: Map<string, Set<string>>;
  place: Place;
  changes: CellChanges;
  onSay: (sentence: string) => void;
  go: (command: Command) => boolean;
  focus: () => void;
}

/** The editor in the cell under the cursor: how it opens, and what becomes of its text when it is left. */
export function useEditing({ entries, store, languages, keptBy, place, changes, onSay, go, focus }: Options) {
  const [editing, setEditing] = useState<Editing | null>(null);
  const id = entries.ids[place.row];
  const tag = languages[place.column]?.language.tag;

  /** A draft that outlives the page: every key goes into the browser's store at once. */
  const drafted = useCallback(
    (forms: Forms, entry: number, language: string, plain: boolean) =>
      new Draft(forms, (all) => {
        // What waits to be sent for this cell is overtaken by what is typed now.
        waiting.drop(`${entry} ${language}`);
        unsaved.keep({ entry, language, text: mainForm(all), forms: plain ? undefined : all });
      }),
    [],
  );

  const open = useCallback(
    (replaceWith: string | null) => {
      if (id === undefined || tag === undefined || (replaceWith === null && !store.row(id))) return;
      // A text in a folded section would be typed out of sight.
      if (entries.hidden(place.row)) return;
      const row = store.row(id);
      if (row && !takesText(row, tag, keptBy)) return;
      const initial = formsNow(store, id, tag);
      // Typing replaces a plain text and begins an empty one of several forms; where forms have texts it would replace only one of them.
      const plain = (row?.shape ?? "plain") === "plain";
      const draft = drafted(initial, id, tag, plain);
      const language = languages[place.column]?.language;
      const first = row && language ? fieldsOf(row.shape, language, row.sourceForms)[0]?.form : MAIN;
      const begins = plain || Object.keys(initial).length === 0;
      if (replaceWith !== null && begins) draft.write(first ?? MAIN, replaceWith);
      setEditing({ initial, draft, version: row ? (store.cell(id, tag)?.version ?? 0) : undefined, amends: null });
    },
    [id, tag, store, keptBy, drafted, languages, place, entries],
  );

  const amend = useCallback(
    (offer: number, forms: Forms) => {
      if (id === undefined || tag === undefined) return;
      const plain = (store.row(id)?.shape ?? "plain") === "plain";
      const draft = drafted(forms, id, tag, plain);
      setEditing({ initial: forms, draft, version: store.cell(id, tag)?.version, amends: offer });
    },
    [id, tag, store, drafted],
  );

  /** Puts another's text into the editor, which opens for it. */
  const take = useCallback(
    (forms: Forms) => {
      const row = id === undefined ? undefined : store.row(id);
      if (id === undefined || tag === undefined || !row || !takesText(row, tag, keptBy)) return;
      if (editing) {
        editing.draft.take(forms);
        return;
      }
      const initial = formsNow(store, id, tag);
      const draft = drafted(initial, id, tag, row.shape === "plain");
      draft.take(forms);
      setEditing({ initial, draft, version: store.cell(id, tag)?.version ?? 0, amends: null });
    },
    [editing, id, tag, store, keptBy, drafted],
  );

  const end = useCallback(
    (forms: Forms, how: EditEnd) => {
      const amends = editing?.amends ?? null;
      const initial = editing?.initial ?? {};
      const seen = editing?.version;
      const taken = editing?.draft.untouched ?? false;
      setEditing(null);
      if (id === undefined || tag === undefined) return;
      const cell = store.cell(id, tag);
      const empty = Object.keys(forms).length === 0;
      const plain = (store.row(id)?.shape ?? "plain") === "plain";
      const text = plain ? { text: forms[MAIN] ?? "" } : { forms };
      const origin = taken ? { how: "MEMORY" as const } : {};
      const send = async (change: Parameters<CellChanges["change"]>[2]) => {
        const wrong = await changes.change(id, tag, { ...change, ...origin }, seen);
        if (wrong) onSay(wrong);
      };
      if (how === "put-forward") {
        if (amends !== null) void send({ action: "AMEND", offer: amends, ...text });
        else if (!empty) void send({ action: "PUT_FORWARD", ...text });
        else {
          unsaved.drop(id, tag);
          if (cell?.text !== undefined) void send({ action: "CLEAR" });
        }
        go({ do: "move", rows: 1, columns: 0 });
      } else if (!empty && !sameForms(forms, initial) && !sameForms(forms, formsOf(cell?.text, cell?.forms))) {
        if (cell?.settled) {
          // Leaving must never replace what is settled; the text waits here until it is put forward or dropped.
          const shown = mainForm(forms);
          unsaved.keep({ entry: id, language: tag, text: shown, forms: plain ? undefined : forms });
          store.setPending(id, tag, {
            text: shown,
            forms: plain ? undefined : forms,
            status: "failed",
            sentence: t("cell.notPutForward"),
          });
        } else {
          void send({ action: "PENCIL", ...text });
        }
      } else if (!store.pending(id, tag)) {
        unsaved.drop(id, tag);
      }
      if (how === "next" || how === "previous") go({ do: "step", columns: how === "next" ? 1 : -1 });
      if (how !== "blur") focus();
    },
    [editing, id, tag, store, changes, onSay, go, focus],
  );

  // An editor that goes away with its page leaves its text in sight, not only in the browser's store.
  const kept = useRef({ editing, id, tag, store });
  useEffect(() => {
    kept.current = { editing, id, tag, store };
  });
  useEffect(
    () => () => {
      const last = kept.current;
      if (!last.editing || last.id === undefined || last.tag === undefined) return;
      const forms = last.editing.draft.all();
      if (Object.keys(forms).length === 0 || sameForms(forms, last.editing.initial)) return;
      const plain = (last.store.row(last.id)?.shape ?? "plain") === "plain";
      last.store.setPending(last.id, last.tag, {
        text: mainForm(forms),
        forms: plain ? undefined : forms,
        status: "failed",
        sentence: t("cell.keptHere"),
      });
    },
    [],
  );

  return { editing, open, amend, take, end };
}

/** What an editor begins with: what is on its way or waits here, the newest offer, or the text in force. */
function formsNow(store: RowStore, id: number, tag: string): Forms {
  const pending = store.pending(id, tag);
  if (pending) return formsOf(pending.text, pending.forms);
  const cell = store.cell(id, tag);
  const offer = cell?.state === "offered" ? cell.offers.at(-1) : undefined;
  return offer ? formsOf(offer.text, offer.forms) : formsOf(cell?.text, cell?.forms);
}
