import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { sentenceOf, type Schemas } from "../../api/client";
import { atMostEvery, useLive, type LiveChange } from "../../live/live";
import { t } from "../../words/words";
import { everyTab, isBoolean, isNumber, readKept, thisTab, writeKept } from "../../sheet/outbox/browserStore";
import { outbox } from "../../sheet/outbox/outbox";
import { ReplaceDialog } from "../replacing";
import type { Person } from "../../session/useSession";
import type { Draft } from "../../text/draft";
import type { Entries } from "../../sheet/entries";
import { Footnotes } from "./Footnotes";
import { GoToDialog } from "./GoToDialog";
import type { Place } from "../../sheet/keyboard";
import { KeysDialog } from "../../sheet/KeysDialog";
import { hitOf } from "../../text/memory";
import { PasteDialog } from "./PasteDialog";
import type { RowStore } from "../../sheet/rowStore";
import { SelectionBar } from "./SelectionBar";
import { blockOf, sizeOf } from "../../sheet/selection";
import { Spread, type SpreadHandle } from "./Spread";
import { saidOf, undoing } from "../../sheet/undoing";
import { useBlocks } from "../../sheet/useBlocks";
import { useCellChanges } from "../../sheet/useCellChanges";
import { useResting } from "../../sheet/useResting";
import type { View } from "./useView";

const REST_MS = 120;
/** At 200 % a usual window is as low as that, and rows come before what is said about them. */
const LOW_WINDOW_PX = 500;
const FOOTNOTES_KEY = "mellow.footnotes.closed";

interface Props {
  me: Person;
  /** The scope as its query string. */
  scope: string;
  entries: Entries;
  store: RowStore;
  tables: Schemas["TableReply"][];
  languages: Schemas["LanguageReply"][];
  /** The entry to begin at, 0 for where one was before. */
  at: number;
  view: View;
  onView: (part: Partial<View>) => void;
  onHide: (language: string) => void;
  onSay: (sentence: string) => void;
  onEntries: () => void;
}

/** The spread with its footnotes: where one is, what changes elsewhere, and one's own last changes. */
export function Sheet(props: Props) {
  const { me, scope, store, tables, languages, at, view, onView, onHide, onSay, onEntries } = props;
  const queries = useQueryClient();
  const folded = view.folded;
  const entries = useMemo(() => props.entries.folding(new Set(folded)), [props.entries, folded]);
  const memory = `mellow.place.${tables.map((table) => table.slug).join(",")}`;
  const [{ place, anchor }, setWhere] = useState(() => {
    const first = begin(at, memory, props.entries);
    return { place: first, anchor: first };
  });
  const [closed, setClosed] = useState(
    () => readKept(everyTab, FOOTNOTES_KEY, isBoolean) ?? window.innerHeight < LOW_WINDOW_PX,
  );
  const [dialog, setDialog] = useState<"keys" | "go-to" | "replace" | null>(null);
  const [draft, setDraft] = useState<Draft | null>(null);
  const spread = useRef<SpreadHandle>(null);
  const changes = useCellChanges(store);
  const language = languages[place.column] ?? languages[0];
  const keptBy = useMemo(
    () => new Map(tables.map((one) => [one.slug, new Set(one.languages.map((kept) => kept.language.tag))])),
    [tables],
  );
  const block = useMemo(() => blockOf(anchor, place), [anchor, place]);
  const blocks = useBlocks({ entries, store, languages, keptBy, block, changes, onSay });

  useEffect(() => spread.current?.focus(), []);
  useEffect(() => store.follow(), [store]);
  const choose = useCallback(
    (from: Place, to: Place) => {
      setWhere({ anchor: from, place: to });
      writeKept(thisTab, memory, entries.ids[to.row] ?? 0);
    },
    [memory, entries],
  );
  const move = useCallback(
    (to: Place, extend = false) => {
      setWhere((before) => ({ anchor: extend ? before.anchor : to, place: to }));
      writeKept(thisTab, memory, entries.ids[to.row] ?? 0);
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
  const undo = useCallback(
    (again: boolean) => {
      // What is on its way comes first: the last change is taken back, not the one before it.
      outbox
        .rest()
        .then(() => (again ? undoing.redo() : undoing.undo()))
        .then((undone) => {
          if (!undone) {
            onSay(t(again ? "undo.nothingAgain" : "undo.nothing"));
            return;
          }
          const there = undone.entries.every((entry) => store.row(entry)?.removed === false);
          if (there) void store.refresh(undone.entries);
          else onEntries();
          const said = saidOf(undone);
          if (said) onSay(said);
        })
        .catch((failure: unknown) => onSay(sentenceOf(failure)));
    },
    [store, onSay, onEntries],
  );
  const close = (yes: boolean) => {
    setClosed(yes);
    writeKept(everyTab, FOOTNOTES_KEY, yes);
  };
  const entry = entries.ids[place.row];
  // Whoever runs down the sheet does not read the footnotes of every entry on the way.
  const noted = useResting(entry, REST_MS);
  const tag = language?.language.tag ?? "";
  const noteOf = useCallback((letter: string) => hitOf(queries, entry ?? 0, tag, letter), [queries, entry, tag]);
  const onOther = (what: "find" | "keys" | "leave-grid" | "go-to" | "replace") => {
    if (what === "find") document.getElementById("find")?.focus();
    else if (what === "leave-grid") document.querySelector<HTMLElement>(closed ? ".picker" : ".footnotes")?.focus();
    else setDialog(what);
  };
  const back = () => {
    setDialog(null);
    spread.current?.focus();
  };
  return (
    <>
      <Spread
        ref={spread}
        entries={entries}
        store={store}
        tables={tables}
        languages={languages}
        keptBy={keptBy}
        place={place}
        block={block}
        onPlace={move}
        onBlock={choose}
        blocks={blocks}
        me={me.id}
        changes={changes}
        view={view}
        onView={onView}
        onHide={onHide}
        onSay={onSay}
        onOther={onOther}
        onUndo={undo}
        onDraft={setDraft}
        noteOf={noteOf}
      />
      {(sizeOf(block) > 1 || blocks.busy !== "") && (
        <SelectionBar
          me={me}
          block={block}
          entries={entries}
          store={store}
          languages={languages}
          blocks={blocks}
          onDrop={() => {
            choose(place, place);
            spread.current?.focus();
          }}
        />
      )}
      {closed ? (
        <button type="button" className="reopen" onClick={() => close(false)}>
          {t("footnotes.open")}
        </button>
      ) : (
        language &&
        noted !== undefined && (
          <Footnotes
            store={store}
            entry={noted}
            language={language}
            me={me}
            changes={changes}
            draft={noted === entry ? draft : null}
            onSay={onSay}
            onAmend={(offer, forms) => spread.current?.amend(offer, forms)}
            onTake={(forms) => spread.current?.take(forms)}
            onEntries={onEntries}
            onClose={() => close(true)}
          />
        )
      )}
      {blocks.plan && (
        <PasteDialog
          plan={blocks.plan.plan}
          filling={blocks.plan.filling}
          onPaste={(action) => {
            void blocks.carryOut(action);
            spread.current?.focus();
          }}
          onClose={() => {
            blocks.leavePlan();
            spread.current?.focus();
          }}
        />
      )}
      {dialog === "keys" && <KeysDialog onClose={back} />}
      {dialog === "go-to" && (
        <GoToDialog
          entries={entries}
          tables={tables}
          languages={languages.map((one) => one.language.tag)}
          onGo={(row) => {
            move({ row, column: place.column });
            back();
          }}
          onClose={back}
        />
      )}
      {dialog === "replace" && (
        <ReplaceDialog
          me={me}
          scope={scope}
          languages={languages}
          first={tag}
          onDone={(done) => {
            if (done) {
              undoing.did({ change: done.change, entries: done.entries });
              void store.refresh(done.entries);
              onSay(done.said);
            }
            back();
          }}
        />
      )}
    </>
  );
}

/** The entry asked for, else the place where one was in these tables before a reload, if it is still in the scope. */
function begin(at: number, memory: string, entries: Entries): Place {
  const id = at || (readKept(thisTab, memory, isNumber) ?? 0);
  const row = id ? entries.ids.indexOf(id) : -1;
  return { row: Math.max(0, row), column: 0 };
}
