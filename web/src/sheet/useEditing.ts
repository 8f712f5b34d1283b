import { useCallback, useEffect, useRef, useState } from "react";
import type { Schemas } from "../api/client";
import { outbox } from "./outbox/outbox";
import type { Seen } from "./outbox/slip";
import { t } from "../words/words";
import { endingOf, goesOn, type EditEnd } from "./ending";
import { formsShown } from "./cellShown";
import { Draft } from "../text/draft";
import type { Entries } from "./entries";
import type { Command, Place } from "./keyboard";
import { takesText } from "./pasting";
import type { RowStore } from "./rowStore";
import { fieldsOf, MAIN, sameForms, type Forms } from "../text/shapes";
import { versionIn, type CellChanges } from "./useCellChanges";

/** An open editor. It belongs to an entry and a language from its opening: wherever the cursor goes, its text ends there. */
export interface Editing {
  entry: number;
  language: string;
  /** Its number in the outbox. */
  id: string;
  /** What the person saw when it opened. */
  seen: Seen;
  initial: Forms;
  draft: Draft;
  /** The offer that is being amended, or null for a text of one's own. */
  amends: number | null;
}

interface Options {
  entries: Entries;
  store: RowStore;
  languages: Schemas["LanguageReply"][];
  keptBy: Map<string, Set<string>>;
  place: Place;
  /** Number of the person, whose own offers they may withdraw. */
  me: number;
  changes: CellChanges;
  onSay: (sentence: string) => void;
  go: (command: Command) => unknown;
  focus: () => void;
}

export type Editor = ReturnType<typeof useEditing>;

/** The editor in the cell under the cursor: how it opens, and what becomes of its text when it is left. */
export function useEditing({ entries, store, languages, keptBy, place, me, changes, onSay, go, focus }: Options) {
  const [editing, setEditing] = useState<Editing | null>(null);
  const id = entries.ids[place.row];
  const tag = languages[place.column]?.language.tag;

  const begin = useCallback(
    (entry: number, language: string, initial: Forms, amends: number | null) => {
      const seen = outbox.seen(entry, language, versionIn(store, entry, language));
      const number = outbox.opens(entry, language, seen);
      // Every key goes into the browser's store at once, so that the text outlives the page.
      const draft = new Draft(initial, (all) => outbox.typed(entry, language, number, all));
      setEditing({ entry, language, id: number, seen, initial, draft, amends });
      return draft;
    },
    [store],
  );

  const open = useCallback(
    (replaceWith: string | null) => {
      if (id === undefined || tag === undefined || (replaceWith === null && !store.row(id))) return;
      // A text in a folded section would be typed out of sight.
      if (entries.hidden(place.row)) return;
      const row = store.row(id);
      if (row && !takesText(row, tag, keptBy)) return;
      const initial = formsShown(store.cell(id, tag), store.pending(id, tag));
      const draft = begin(id, tag, initial, null);
      if (replaceWith === null) return;
      // Typing replaces a plain text and begins an empty one of several forms; where forms have texts it would replace only one of them, and goes on with it.
      const language = languages[place.column]?.language;
      const first = (row && language ? fieldsOf(row.shape, language, row.sourceForms)[0]?.form : MAIN) ?? MAIN;
      const replaces = (row?.shape ?? "plain") === "plain";
      draft.write(first, replaces ? replaceWith : draft.read(first) + replaceWith);
    },
    [id, tag, store, keptBy, begin, languages, place, entries],
  );

  const amend = useCallback(
    (offer: number, forms: Forms) => {
      if (id !== undefined && tag !== undefined) begin(id, tag, forms, offer);
    },
    [id, tag, begin],
  );

  /** Puts another's text into the editor, which opens for it. */
  const take = useCallback(
    (forms: Forms) => {
      if (editing) {
        editing.draft.take(forms);
        return;
      }
      const row = id === undefined ? undefined : store.row(id);
      if (id === undefined || tag === undefined || !row || !takesText(row, tag, keptBy)) return;
      begin(id, tag, formsShown(store.cell(id, tag), store.pending(id, tag)), null).take(forms);
    },
    [editing, id, tag, store, keptBy, begin],
  );

  const end = useCallback(
    (forms: Forms, how: EditEnd) => {
      if (!editing) return;
      const { entry, language, initial, amends } = editing;
      setEditing(null);
      const edited = {
        initial,
        amends,
        plain: (store.row(entry)?.shape ?? "plain") === "plain",
        cell: store.cell(entry, language),
        pending: store.pending(entry, language),
      };
      const ending = endingOf(edited, forms, how, me);
      switch (ending.do) {
        case "send": {
          const origin = editing.draft.untouched ? { how: "MEMORY" as const } : {};
          void changes
            .change(entry, language, { ...ending.change, ...origin }, editing)
            .then((wrong) => wrong && onSay(wrong));
          break;
        }
        case "keep":
          outbox.keeps(entry, language, editing.id, forms, t(ending.why));
          break;
        case "drop":
          outbox.leaves(entry, language, editing.id);
          outbox.drop(entry, language);
          break;
        case "leave":
          outbox.leaves(entry, language, editing.id);
          if (ending.say) onSay(t(ending.say));
      }
      const on = goesOn(how);
      if (on) go(on);
      if (how !== "blur") focus();
    },
    [editing, store, me, changes, onSay, go, focus],
  );

  // An editor that goes away with its page leaves its text in sight, not only in the browser's store.
  const kept = useRef(editing);
  useEffect(() => {
    kept.current = editing;
  });
  useEffect(
    () => () => {
      const last = kept.current;
      if (!last) return;
      const forms = last.draft.all();
      if (sameForms(forms, last.initial)) outbox.leaves(last.entry, last.language, last.id);
      else outbox.keeps(last.entry, last.language, last.id, forms, t("cell.keptHere"));
    },
    [],
  );

  return { editing, open, amend, take, end };
}
