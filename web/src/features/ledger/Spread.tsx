import { defaultRangeExtractor, useVirtualizer } from "@tanstack/react-virtual";
import { forwardRef, useCallback, useEffect, useImperativeHandle, useMemo, useRef, useState } from "react";
import type { Schemas } from "../../api/client";
import { count, t } from "../../words/words";
import { Draft, type EditEnd } from "./CellEditor";
import type { Entries } from "./entries";
import { commandFor, destination, type Command, type Place } from "./keyboard";
import { Mark } from "./Mark";
import type { RowStore } from "./rowStore";
import { left } from "./scopeTables";
import { formsOf, mainForm, MAIN, sameForms, type Forms } from "./shapes";
import { cellId, SpreadRow, type Editing } from "./SpreadRow";
import type { CellChanges } from "./useCellChanges";
import { unsaved } from "./unsaved";
import "./spread.css";

const ROW_HEIGHT = 56;
const SECTION_HEIGHT = 30;
const HEAD_HEIGHT = 34;
const SOURCE_WIDTH = 280;
const TEXT_WIDTH = 210;
const OVERSCAN = 12;

interface Props {
  entries: Entries;
  store: RowStore;
  /** The tables of the scope; the head speaks of one by name. */
  tables: Schemas["TableReply"][];
  languages: Schemas["LanguageReply"][];
  place: Place;
  onPlace: (place: Place) => void;
  changes: CellChanges;
  onSay: (sentence: string) => void;
  onFind: () => void;
  onKeys: () => void;
  onLeave: () => void;
  onUndo: (again: boolean) => void;
}

/** What others may ask of the spread. */
export interface SpreadHandle {
  focus: () => void;
  amend: (offer: number, forms: Forms) => void;
  edit: () => void;
}

/** The two-page spread: a grid with one tab stop, whose rows exist only while they are seen. */
export const Spread = forwardRef<SpreadHandle, Props>(function Spread(
  { entries, store, tables, languages, place, onPlace, changes, onSay, onFind, onKeys, onLeave, onUndo },
  ref,
) {
  const scroller = useRef<HTMLDivElement>(null);
  const [editing, setEditing] = useState<Editing | null>(null);
  const currentLine = entries.lineOf(place.row);
  const keptBy = useMemo(
    () => new Map(tables.map((one) => [one.slug, new Set(one.languages.map((kept) => kept.language.tag))])),
    [tables],
  );
  const virtual = useVirtualizer({
    count: entries.lines,
    getScrollElement: () => scroller.current,
    estimateSize: (line) => (entries.at(line).kind === "section" ? SECTION_HEIGHT : ROW_HEIGHT),
    overscan: OVERSCAN,
    // The head stands in the flow above the lines and stays over them.
    scrollMargin: HEAD_HEIGHT,
    scrollPaddingStart: HEAD_HEIGHT,
    // The line under the cursor always exists, so that typing right after a jump finds its editor.
    rangeExtractor: (range) => {
      const seen = defaultRangeExtractor(range);
      return seen.includes(currentLine) ? seen : [...seen, currentLine].sort((a, b) => a - b);
    },
  });
  const items = virtual.getVirtualItems();
  const firstLine = virtual.range?.startIndex ?? 0;
  const lastLine = virtual.range?.endIndex ?? 0;

  useEffect(() => {
    const from = entries.indexFrom(firstLine);
    store.ensure(entries.ids, from - OVERSCAN, from + (lastLine - firstLine) + 2 * OVERSCAN);
  }, [entries, store, firstLine, lastLine]);

  useEffect(() => {
    virtual.scrollToIndex(currentLine, { align: "auto" });
  }, [virtual, currentLine]);

  useEffect(() => {
    document.getElementById(cellId(place.row, place.column))?.scrollIntoView({ block: "nearest", inline: "nearest" });
  }, [place]);

  const focus = useCallback(() => scroller.current?.focus({ preventScroll: true }), []);
  const open = useCallback(
    (replaceWith: string | null) => {
      const id = entries.ids[place.row];
      const tag = languages[place.column]?.language.tag;
      if (id === undefined || tag === undefined || (replaceWith === null && !store.row(id))) return;
      const row = store.row(id);
      if (row && !(row.translatable && (keptBy.get(row.table)?.has(tag) ?? true))) return;
      const initial = formsNow(store, id, tag);
      // Typing replaces a plain text; in a text of several forms it would replace only one of them, so they open as they are.
      const replaces = replaceWith !== null && (row?.shape ?? "plain") === "plain";
      setEditing({
        initial,
        draft: new Draft(replaces ? { [MAIN]: replaceWith } : initial),
        version: row ? (store.cell(id, tag)?.version ?? 0) : undefined,
        amends: null,
      });
    },
    [entries, languages, place, store, keptBy],
  );
  useImperativeHandle(
    ref,
    () => ({
      focus,
      amend: (offer, forms) => {
        const version = store.cell(entries.ids[place.row] ?? 0, languages[place.column]?.language.tag ?? "")?.version;
        setEditing({ initial: forms, draft: new Draft(forms), version, amends: offer });
      },
      edit: () => open(null),
    }),
    [focus, open, store, entries, languages, place],
  );

  const go = useCallback(
    (command: Command): boolean => {
      const pageRows = Math.max(1, Math.floor((scroller.current?.clientHeight ?? ROW_HEIGHT) / ROW_HEIGHT) - 1);
      const to = destination(command, place, entries.size, languages.length, pageRows);
      if (to) onPlace(to);
      return to !== null;
    },
    [place, entries, languages, onPlace],
  );

  const end = useCallback(
    (forms: Forms, how: EditEnd) => {
      const amends = editing?.amends ?? null;
      const initial = editing?.initial ?? {};
      const seen = editing?.version;
      setEditing(null);
      const id = entries.ids[place.row];
      const tag = languages[place.column]?.language.tag;
      if (id === undefined || tag === undefined) return;
      const cell = store.cell(id, tag);
      const empty = Object.keys(forms).length === 0;
      const plain = (store.row(id)?.shape ?? "plain") === "plain";
      const text = plain ? { text: forms[MAIN] ?? "" } : { forms };
      const send = async (change: Parameters<CellChanges["change"]>[2]) => {
        const wrong = await changes.change(id, tag, change, seen);
        if (wrong) onSay(wrong);
      };
      if (how === "put-forward") {
        if (amends !== null) void send({ action: "AMEND", offer: amends, ...text });
        else if (!empty) void send({ action: "PUT_FORWARD", ...text });
        else if (cell?.text !== undefined) void send({ action: "CLEAR" });
        go({ do: "move", rows: 1, columns: 0 });
      } else if (!empty && !sameForms(forms, initial) && !sameForms(forms, formsOf(cell?.text, cell?.forms))) {
        if (cell?.settled) {
          // Leaving must never replace what is settled; the text waits here until it is put forward or dropped.
          const shown = mainForm(forms);
          unsaved.keep(id, tag, shown, plain ? undefined : forms);
          store.setPending(id, tag, {
            text: shown,
            forms: plain ? undefined : forms,
            status: "failed",
            sentence: t("cell.notPutForward"),
          });
        } else {
          void send({ action: "PENCIL", ...text });
        }
      }
      if (how === "next" || how === "previous") go({ do: "step", columns: how === "next" ? 1 : -1 });
      if (how !== "blur") focus();
    },
    [editing, entries, languages, place, store, changes, onSay, go, focus],
  );

  const onKeyDown = (event: React.KeyboardEvent) => {
    const id = entries.ids[place.row];
    const tag = languages[place.column]?.language.tag;
    if (editing || id === undefined || tag === undefined) return;
    const stale = store.cell(id, tag)?.state === "stale";
    const { key, ctrlKey, metaKey, altKey, shiftKey } = event;
    const command = commandFor(
      { key, ctrlKey, metaKey, altKey, shiftKey, isComposing: event.nativeEvent.isComposing },
      stale,
    );
    if (!command) return;
    switch (command.do) {
      case "edit":
        open(command.replaceWith);
        break;
      case "still-holds":
        void changes.change(id, tag, { action: "STILL_HOLDS" }).then((wrong) => wrong && onSay(wrong));
        break;
      case "find":
        onFind();
        break;
      case "keys":
        onKeys();
        break;
      case "undo":
        onUndo(command.again);
        break;
      case "leave-grid":
        onLeave();
        break;
      default:
        if (!go(command)) return;
    }
    event.preventDefault();
  };

  const onPoint = useCallback((row: number, column: number) => onPlace({ row, column }), [onPlace]);
  const onOpen = useCallback(() => open(null), [open]);
  const single = languages.length === 1;
  const table = tables[0];
  const inScope = tables.reduce((sum, one) => sum + one.entries, 0);
  const columns = single
    ? "minmax(220px, 45%) 44px minmax(240px, 1fr)"
    : `minmax(${SOURCE_WIDTH}px, 330px) repeat(${languages.length}, minmax(${TEXT_WIDTH}px, 1fr))`;
  const width = single ? undefined : SOURCE_WIDTH + languages.length * TEXT_WIDTH;

  return (
    <>
      <div className={single ? "spread" : "spread several"}>
        <div
          ref={scroller}
          className="scroller"
          role="grid"
          tabIndex={0}
          aria-label={t("ledger.grid", { table: tables.map((one) => one.name).join(", ") })}
          aria-rowcount={entries.lines + 1}
          aria-colcount={languages.length + 1}
          aria-activedescendant={editing ? undefined : cellId(place.row, place.column)}
          onKeyDown={onKeyDown}
        >
          <div className="head" role="row" aria-rowindex={1} style={{ gridTemplateColumns: columns, minWidth: width }}>
            <div role="columnheader" aria-colindex={1} className="source">
              {table && t("ledger.source", { language: table.source.englishName })}
              <span className="limit">{t("ledger.limit")}</span>
            </div>
            {single && <div className="gutter" role="presentation" />}
            {languages.map((kept, column) => (
              <div key={kept.language.tag} role="columnheader" aria-colindex={column + 2} className="cell">
                <span>
                  {single ? `${kept.language.englishName} · ${kept.language.ownName}` : kept.language.englishName}
                </span>
                <span className="counts">
                  {single ? (
                    (["untranslated", "stale", "offered"] as const).map((state) => (
                      <span key={state}>
                        <Mark state={state} labelled={false} /> {t(`counts.${state}`, { n: kept.states[state] ?? 0 })}
                      </span>
                    ))
                  ) : (
                    <span>
                      {t("counts.left", {
                        n: tables.length === 1 ? inScope - (kept.states.settled ?? 0) : left(kept, "entries"),
                      })}
                    </span>
                  )}
                </span>
              </div>
            ))}
          </div>
          <div className="lines" style={{ height: virtual.getTotalSize(), minWidth: width }} role="presentation">
            {items.map((item) => {
              const line = entries.at(item.index);
              const style = { transform: `translateY(${item.start - HEAD_HEIGHT}px)`, gridTemplateColumns: columns };
              if (line.kind === "section") {
                return (
                  <div key={item.key} className="line section" role="row" aria-rowindex={item.index + 2} style={style}>
                    <div role="gridcell" aria-colspan={languages.length + 1} className="source">
                      {line.name || t("ledger.noSection")}
                    </div>
                    {single ? <div className="gutter" role="presentation" /> : null}
                  </div>
                );
              }
              const here = line.index === place.row;
              return (
                <div
                  key={item.key}
                  className={here ? (editing ? "line here open" : "line here") : "line"}
                  role="row"
                  aria-rowindex={item.index + 2}
                  style={style}
                >
                  <SpreadRow
                    id={entries.ids[line.index] ?? 0}
                    index={line.index}
                    store={store}
                    languages={languages}
                    keptBy={keptBy}
                    cursor={here ? place.column : -1}
                    editing={here ? editing : null}
                    onPoint={onPoint}
                    onOpen={onOpen}
                    onEnd={end}
                  />
                </div>
              );
            })}
          </div>
        </div>
      </div>
      <span className="visually-hidden" role="status">
        {t("ledger.position", { n: entries.size, row: count(place.row + 1) })}
      </span>
    </>
  );
});

/** What an editor begins with: what is on its way or waits here, the newest offer, or the text in force. */
function formsNow(store: RowStore, id: number, tag: string): Forms {
  const pending = store.pending(id, tag);
  if (pending) return formsOf(pending.text, pending.forms);
  const cell = store.cell(id, tag);
  const offer = cell?.state === "offered" ? cell.offers.at(-1) : undefined;
  return offer ? formsOf(offer.text, offer.forms) : formsOf(cell?.text, cell?.forms);
}
