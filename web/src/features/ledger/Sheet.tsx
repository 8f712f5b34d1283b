import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import type { Schemas } from "../../api/client";
import { t } from "../../words/words";
import { KeysDialog } from "../../sheet/KeysDialog";
import { everyTab, isBoolean, readKept, writeKept } from "../../sheet/outbox/browserStore";
import { SourceDialog } from "../entry";
import { ReplaceDialog } from "../replacing";
import type { Person } from "../../session/useSession";
import type { Entries } from "../../sheet/entries";
import { Footnotes } from "./Footnotes";
import { GoToDialog } from "./GoToDialog";
import { formsShown } from "../../sheet/cellShown";
import { hitOf } from "../../text/memory";
import { MEND_LETTER, mendedBy } from "../../text/useCheck";
import { PasteDialog } from "./PasteDialog";
import type { RowStore } from "../../sheet/rowStore";
import { SelectionBar } from "./SelectionBar";
import { sizeOf } from "../../sheet/selection";
import { SheetProvider, type SheetModel } from "./sheetModel";
import { Spread, type Beyond } from "./Spread";
import { undoing } from "../../sheet/undoing";
import { useBlocks } from "../../sheet/useBlocks";
import { useCellChanges } from "../../sheet/useCellChanges";
import { useCursor } from "../../sheet/useCursor";
import { useEditing } from "../../sheet/useEditing";
import { useResting } from "../../sheet/useResting";
import { useSheetLive } from "./useSheetLive";
import { useUndo } from "./useUndo";
import type { View } from "./useView";

const REST_MS = 120;
/** At 200 % a usual window is as low as that, and rows come before what is said about them. */
const LOW_WINDOW_PX = 500;
const FOOTNOTES_KEY = "mellow.footnotes.closed";

type Dialog = "keys" | "go-to" | "replace" | "rewrite";

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
  const { folded } = view;
  const entries = useMemo(() => props.entries.folding(new Set(folded)), [props.entries, folded]);
  const cursor = useCursor(
    entries,
    languages.length,
    at,
    `mellow.place.${tables.map((table) => table.slug).join(",")}`,
  );
  const { place, block } = cursor;
  const [closed, setClosed] = useState(
    () => readKept(everyTab, FOOTNOTES_KEY, isBoolean) ?? window.innerHeight < LOW_WINDOW_PX,
  );
  const [dialog, setDialog] = useState<Dialog | null>(null);
  const grid = useRef<HTMLDivElement>(null);
  const focus = useCallback(() => grid.current?.focus({ preventScroll: true }), []);
  const changes = useCellChanges(store);
  // The footnotes of a source speak of the first language.
  const language = languages[place.column] ?? languages[0];
  const keptBy = useMemo(
    () => new Map(tables.map((one) => [one.slug, new Set(one.languages.map((kept) => kept.language.tag))])),
    [tables],
  );
  const blocks = useBlocks({ entries, store, languages, keptBy, block, changes, onSay });
  const editor = useEditing({
    entries,
    store,
    languages,
    keptBy,
    place,
    me: me.id,
    changes,
    onSay,
    go: cursor.go,
    focus,
  });
  const model = useMemo<SheetModel>(
    () => ({ entries, store, tables, languages, keptBy, me, changes, view, onView, onHide, onSay }),
    [entries, store, tables, languages, keptBy, me, changes, view, onView, onHide, onSay],
  );

  useEffect(focus, [focus]);
  useEffect(() => store.follow(), [store]);
  useSheetLive(store, tables);
  const undo = useUndo(store, onSay, onEntries);
  const close = (yes: boolean) => {
    setClosed(yes);
    writeKept(everyTab, FOOTNOTES_KEY, yes);
  };
  const entry = entries.ids[place.row];
  const row = entry === undefined ? undefined : store.row(entry);
  const under = useMemo(() => (entry === undefined || !language ? null : { entry, language }), [entry, language]);
  // Whoever runs over the sheet does not read the footnotes of every cell on the way.
  const noted = useResting(under, REST_MS);
  const tag = language?.language.tag ?? "";
  const editing = editor.editing;
  const noteOf = useCallback(
    (letter: string) => {
      const id = entry ?? 0;
      if (letter !== MEND_LETTER) return hitOf(queries, id, tag, letter);
      const text = editing?.draft.all() ?? formsShown(store.cell(id, tag), store.pending(id, tag));
      return mendedBy(queries, id, tag, text);
    },
    [queries, entry, tag, editing, store],
  );
  const onBeyond = (what: Beyond) => {
    switch (what) {
      case "find":
        document.getElementById("find")?.focus();
        break;
      case "leave-grid":
        document.querySelector<HTMLElement>(closed ? ".picker" : ".footnotes")?.focus();
        break;
      case "undo":
      case "redo":
        undo(what === "redo");
        break;
      case "rewrite":
        if (me.coordinator) setDialog(what);
        else onSay(t("source.notYours"));
        break;
      default:
        setDialog(what);
    }
  };
  const back = () => {
    setDialog(null);
    focus();
  };
  return (
    <SheetProvider value={model}>
      <Spread grid={grid} cursor={cursor} editor={editor} blocks={blocks} onBeyond={onBeyond} noteOf={noteOf} />
      <span className="visually-hidden position">{t("ledger.position", { n: entries.size, row: place.row + 1 })}</span>
      {(sizeOf(block) > 1 || blocks.busy !== "") && (
        <SelectionBar
          block={block}
          blocks={blocks}
          onDrop={() => {
            cursor.choose(place, place);
            focus();
          }}
        />
      )}
      {closed ? (
        <button type="button" className="reopen" onClick={() => close(false)}>
          {t("footnotes.open")}
        </button>
      ) : (
        noted && (
          <Footnotes
            store={store}
            entry={noted.entry}
            language={noted.language}
            me={me}
            changes={changes}
            draft={
              noted.entry === entry && noted.language.language.tag === tag ? (editor.editing?.draft ?? null) : null
            }
            onSay={onSay}
            onAmend={editor.amend}
            onTake={editor.take}
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
            focus();
          }}
          onClose={() => {
            blocks.leavePlan();
            focus();
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
            cursor.move({ row, column: place.column });
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
      {dialog === "rewrite" && row && (
        <SourceDialog
          row={row}
          onDone={(changed) => {
            undoing.did({ change: changed.change, entries: changed.entries });
            void store.refresh(changed.entries);
            back();
          }}
          onClose={back}
        />
      )}
    </SheetProvider>
  );
}
