import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { sentenceOf, type Schemas } from "../../api/client";
import { atMostEvery, useLive, type LiveChange } from "../../live/live";
import { t } from "../../words/words";
import type { Person } from "../session/useSession";
import type { Entries } from "./entries";
import { Footnotes } from "./Footnotes";
import type { Place } from "./keyboard";
import { KeysDialog } from "./KeysDialog";
import type { RowStore } from "./rowStore";
import { Spread, type SpreadHandle } from "./Spread";
import { undoing } from "./undoing";
import { useCellChanges } from "./useCellChanges";

const FOOTNOTES_KEY = "mellow.footnotes.closed";

interface Props {
  me: Person;
  entries: Entries;
  store: RowStore;
  tables: Schemas["TableReply"][];
  languages: Schemas["LanguageReply"][];
  /** The entry to begin at, 0 for where one was before. */
  at: number;
  onSay: (sentence: string) => void;
  onEntries: () => void;
}

/** The spread with its footnotes: where one is, what changes elsewhere, and one's own last changes. */
export function Sheet({ me, entries, store, tables, languages, at, onSay, onEntries }: Props) {
  const queries = useQueryClient();
  const memory = `mellow.place.${tables.map((table) => table.slug).join(",")}`;
  const [place, setPlace] = useState<Place>(() => begin(at, memory, entries));
  const [closed, setClosed] = useState(() => localStorage.getItem(FOOTNOTES_KEY) === "yes");
  const [keys, setKeys] = useState(false);
  const spread = useRef<SpreadHandle>(null);
  const changes = useCellChanges(store);
  const language = languages[place.column] ?? languages[0];

  useEffect(() => spread.current?.focus(), []);
  const move = useCallback(
    (to: Place) => {
      setPlace(to);
      sessionStorage.setItem(memory, String(entries.ids[to.row] ?? 0));
    },
    [memory, entries],
  );
  const ids = tables.map((table) => table.id).join(",");
  const countAgain = useMemo(
    () => atMostEvery(500, () => void queries.invalidateQueries({ queryKey: ["tables"] })),
    [queries],
  );
  useLive(
    useCallback(
      (change: LiveChange) => {
        if (change.table === 0 || ids.split(",").includes(String(change.table))) {
          void store.refresh(change.entries);
          for (const entry of change.entries) void queries.invalidateQueries({ queryKey: ["story", entry] });
        }
        countAgain();
      },
      [store, queries, ids, countAgain],
    ),
  );
  const undo = useCallback(
    (again: boolean) => {
      (again ? undoing.redo() : undoing.undo())
        .then((undone) => {
          if (!undone) {
            onSay(t(again ? "undo.nothingAgain" : "undo.nothing"));
            return;
          }
          const there = undone.entries.every((entry) => store.row(entry)?.removed === false);
          if (there) void store.refresh(undone.entries);
          else onEntries();
          if (undone.refused.length) onSay(undone.refused[0] ?? "");
        })
        .catch((failure: unknown) => onSay(sentenceOf(failure)));
    },
    [store, onSay, onEntries],
  );
  const close = (yes: boolean) => {
    setClosed(yes);
    localStorage.setItem(FOOTNOTES_KEY, yes ? "yes" : "no");
  };
  const entry = entries.ids[place.row];
  return (
    <>
      <Spread
        ref={spread}
        entries={entries}
        store={store}
        tables={tables}
        languages={languages}
        place={place}
        onPlace={move}
        changes={changes}
        onSay={onSay}
        onFind={() => document.getElementById("find")?.focus()}
        onKeys={() => setKeys(true)}
        onLeave={() => document.querySelector<HTMLElement>(closed ? ".picker" : ".footnotes")?.focus()}
        onUndo={undo}
      />
      {closed ? (
        <button type="button" className="reopen" onClick={() => close(false)}>
          {t("footnotes.open")}
        </button>
      ) : (
        language &&
        entry !== undefined && (
          <Footnotes
            store={store}
            entry={entry}
            language={language}
            me={me}
            changes={changes}
            onSay={onSay}
            onAmend={(offer, forms) => spread.current?.amend(offer, forms)}
            onEntries={onEntries}
            onClose={() => close(true)}
          />
        )
      )}
      <KeysDialog open={keys} onClose={() => setKeys(false)} />
    </>
  );
}

/** The entry asked for, else the place where one was in these tables before a reload, if it is still in the scope. */
function begin(at: number, memory: string, entries: Entries): Place {
  const id = at || Number(sessionStorage.getItem(memory));
  const row = id ? entries.ids.indexOf(id) : -1;
  return { row: Math.max(0, row), column: 0 };
}
