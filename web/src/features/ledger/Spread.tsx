import { defaultRangeExtractor, useVirtualizer } from "@tanstack/react-virtual";
import { forwardRef, useCallback, useEffect, useImperativeHandle, useMemo, useRef } from "react";
import type { Schemas } from "../../api/client";
import { count, listed, t } from "../../words/words";
import type { Draft } from "../../text/draft";
import type { Entries } from "../../sheet/entries";
import { commandFor, destination, type Command, type Place } from "../../sheet/keyboard";
import type { RowStore } from "../../sheet/rowStore";
import { sizeOf, type Block } from "../../sheet/selection";
import type { Forms } from "../../text/shapes";
import { SpreadHead } from "./SpreadHead";
import { cellId, SpreadRow } from "./SpreadRow";
import type { Blocks } from "../../sheet/useBlocks";
import type { CellChanges } from "../../sheet/useCellChanges";
import { takenAway, useEditing } from "../../sheet/useEditing";
import { useStable } from "../../sheet/useStable";
import type { View } from "./useView";
import "./spread.css";

const ROW_HEIGHT = 56;
const LOW_ROW_HEIGHT = 32;
const SECTION_HEIGHT = 30;
const HEAD_HEIGHT = 34;
const SOURCE_WIDTH = 280;
const TEXT_WIDTH = 210;
const OVERSCAN = 8;

interface Props {
  entries: Entries;
  store: RowStore;
  /** The tables of the scope; the head speaks of one by name. */
  tables: Schemas["TableReply"][];
  languages: Schemas["LanguageReply"][];
  keptBy: Map<string, Set<string>>;
  place: Place;
  /** The chosen cells, the one under the cursor among them. */
  block: Block;
  onPlace: (place: Place, extend?: boolean) => void;
  onBlock: (anchor: Place, place: Place) => void;
  blocks: Blocks;
  /** Number of the person. */
  me: number;
  changes: CellChanges;
  view: View;
  onView: (part: Partial<View>) => void;
  onHide: (language: string) => void;
  onSay: (sentence: string) => void;
  /** What leads to other parts of the screen. */
  onOther: (what: "find" | "keys" | "leave-grid" | "go-to" | "replace") => void;
  onUndo: (again: boolean) => void;
  /** The text being typed, null while no editor is open. */
  onDraft: (draft: Draft | null) => void;
  /** The text of the footnote of that letter. */
  noteOf: (letter: string) => Forms | null;
}

/** What others may ask of the spread. */
export interface SpreadHandle {
  focus: () => void;
  amend: (offer: number, forms: Forms) => void;
  take: (forms: Forms) => void;
}

/** The two-page spread: a grid with one tab stop, whose rows exist only while they are seen. */
export const Spread = forwardRef<SpreadHandle, Props>(function Spread(props, ref) {
  const { entries, store, tables, languages, keptBy, place, block, onPlace, onBlock, blocks, me, changes, view } =
    props;
  const { onView, onHide, onSay, onOther, onUndo, onDraft, noteOf } = props;
  const scroller = useRef<HTMLDivElement>(null);
  const rowHeight = view.compact ? LOW_ROW_HEIGHT : ROW_HEIGHT;
  const currentLine = entries.lineOf(place.row);
  /** The line of the open editor, which stays when the cursor goes elsewhere, until its text has ended. */
  const editedLine = useRef<number[]>([]);
  const virtual = useVirtualizer({
    count: entries.lines,
    getScrollElement: () => scroller.current,
    estimateSize: (line) => (entries.at(line).kind === "section" ? SECTION_HEIGHT : rowHeight),
    overscan: OVERSCAN,
    // The head stands in the flow above the lines and stays over them.
    scrollMargin: HEAD_HEIGHT,
    scrollPaddingStart: HEAD_HEIGHT,
    // The line under the cursor always exists, so that typing right after a jump finds its editor.
    rangeExtractor: (range) => {
      const seen = new Set([...defaultRangeExtractor(range), currentLine, ...editedLine.current]);
      return [...seen].sort((a, b) => a - b);
    },
  });
  const items = virtual.getVirtualItems();
  const firstLine = virtual.range?.startIndex ?? 0;
  const lastLine = virtual.range?.endIndex ?? 0;

  useEffect(() => virtual.measure(), [virtual, entries, rowHeight]);
  useEffect(() => {
    if (entries.lines === 0) return;
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
  const go = useCallback(
    (command: Command): boolean => {
      const pageRows = Math.max(1, Math.floor((scroller.current?.clientHeight ?? rowHeight) / rowHeight) - 1);
      const to = destination(command, place, entries.size, languages.length, pageRows);
      if (!to) return false;
      const row = entries.seen(to.row, to.row < place.row ? -1 : 1);
      onPlace({ ...to, row }, "extend" in command && command.extend === true);
      return true;
    },
    [place, entries, languages, onPlace, rowHeight],
  );
  const { editing, open, amend, take, end } = useEditing({
    entries,
    store,
    languages,
    keptBy,
    place,
    me,
    changes,
    onSay,
    go,
    focus,
  });
  useEffect(() => onDraft(editing?.draft ?? null), [editing, onDraft]);
  useEffect(() => {
    const row = editing ? entries.ids.indexOf(editing.entry) : -1;
    editedLine.current = row < 0 ? [] : [entries.lineOf(row)];
  }, [editing, entries]);
  useImperativeHandle(ref, () => ({ focus, amend, take }), [focus, amend, take]);
  const takeLetter = useStable((letter: string): boolean => {
    const forms = noteOf(letter);
    if (forms) take(forms);
    return forms !== null;
  });

  /** Takes away what the chosen cells have; of a single one also what one offers there oneself. */
  const clear = () => {
    const [id, tag] = [entries.ids[place.row] ?? 0, languages[place.column]?.language.tag ?? ""];
    const change = sizeOf(block) === 1 ? takenAway(store.cell(id, tag), true, me) : null;
    if (change) void changes.change(id, tag, change).then((wrong) => wrong && onSay(wrong));
    else void blocks.act("CLEAR");
  };
  const toggle = (name: string) => {
    const folded = view.folded.includes(name) ? view.folded.filter((one) => one !== name) : [...view.folded, name];
    onView({ folded });
  };
  const onKeyDown = (event: React.KeyboardEvent) => {
    const id = entries.ids[place.row];
    const tag = languages[place.column]?.language.tag;
    if (editing || id === undefined || tag === undefined) return;
    const stale = store.cell(id, tag)?.state === "stale";
    const { key, code, ctrlKey, metaKey, altKey, shiftKey } = event;
    const isComposing = event.nativeEvent.isComposing;
    const command = commandFor({ key, code, ctrlKey, metaKey, altKey, shiftKey, isComposing }, stale);
    if (!command) return;
    const several = sizeOf(block) > 1;
    switch (command.do) {
      case "edit":
        open(command.replaceWith);
        break;
      case "take":
        if (!takeLetter(command.letter)) return;
        break;
      case "still-holds":
        if (several) void blocks.act("STILL_HOLDS");
        else void changes.change(id, tag, { action: "STILL_HOLDS" }).then((wrong) => wrong && onSay(wrong));
        break;
      case "put-forward":
        void blocks.act("PUT_FORWARD");
        break;
      case "clear":
        clear();
        break;
      case "fill":
        void blocks.fill();
        break;
      case "all":
        onBlock({ row: 0, column: 0 }, { row: entries.size - 1, column: languages.length - 1 });
        break;
      case "unselect":
        onBlock(place, place);
        break;
      case "fold": {
        const section = entries.sectionOf(place.row);
        if (section !== null) toggle(section);
        break;
      }
      case "undo":
        onUndo(command.again);
        break;
      case "find":
      case "keys":
      case "leave-grid":
      case "go-to":
      case "replace":
        onOther(command.do);
        break;
      default:
        if (!go(command)) return;
    }
    event.preventDefault();
  };

  // Rows are drawn again only when something in them changes, so what they are given must stay the same.
  const onPoint = useStable((row: number, column: number, extend: boolean) => onPlace({ row, column }, extend));
  const onOpen = useStable(() => open(null));
  const onEnd = useStable(end);
  const single = languages.length === 1;
  const { columns, width } = useMemo(() => columnsOf(languages, view.widths), [languages, view.widths]);
  const classes = ["spread", single ? "" : "several", view.compact ? "low" : "", view.signs ? "signs" : ""];

  return (
    <>
      <div className={classes.filter((name) => name !== "").join(" ")}>
        <div
          ref={scroller}
          className="scroller"
          role="grid"
          tabIndex={0}
          aria-label={t("ledger.grid", { table: listed(tables.map((one) => one.name)) })}
          aria-rowcount={entries.lines + 1}
          aria-colcount={languages.length + 1}
          aria-multiselectable="true"
          aria-activedescendant={editing || entries.hidden(place.row) ? undefined : cellId(place.row, place.column)}
          onKeyDown={onKeyDown}
          onCopy={(event) => {
            if (editing) return;
            event.preventDefault();
            blocks.copy(event.clipboardData);
          }}
          onCut={(event) => {
            if (editing) return;
            event.preventDefault();
            blocks.copy(event.clipboardData);
            clear();
          }}
          onPaste={(event) => {
            if (editing) return;
            event.preventDefault();
            const text = event.clipboardData.getData("text/plain");
            const one = sizeOf(block) === 1 && !/[\t\r\n]/.test(text);
            if (one) open(text);
            else void blocks.paste(text);
          }}
        >
          <SpreadHead
            tables={tables}
            languages={languages}
            columns={columns}
            width={width}
            view={view}
            onView={onView}
            onHide={onHide}
          />
          <div className="lines" style={{ height: virtual.getTotalSize(), minWidth: width }} role="presentation">
            {items.map((item) => {
              if (item.index >= entries.lines) return null;
              const line = entries.at(item.index);
              const style = { transform: `translateY(${item.start - HEAD_HEIGHT}px)`, gridTemplateColumns: columns };
              if (line.kind === "section") {
                const name = line.name || t("ledger.noSection");
                return (
                  <div key={item.key} className="line section" role="row" aria-rowindex={item.index + 2} style={style}>
                    <div role="gridcell" aria-colspan={languages.length + 1} className="source">
                      <button
                        type="button"
                        tabIndex={-1}
                        aria-expanded={!line.folded}
                        aria-label={t(line.folded ? "view.unfold" : "view.fold", { name, n: line.size })}
                        onClick={() => toggle(line.name)}
                      >
                        <span aria-hidden="true">{line.folded ? "▸" : "▾"}</span> {name}
                        {line.folded && <small> {t("view.folded", { n: line.size })}</small>}
                      </button>
                    </div>
                    {single ? <div className="gutter" role="presentation" /> : null}
                  </div>
                );
              }
              const here = line.index === place.row;
              const chosen = line.index >= block.top && line.index <= block.bottom && sizeOf(block) > 1;
              return (
                <div
                  key={item.key}
                  className={`line${here ? " here" : ""}${editing?.entry === entries.ids[line.index] ? " open" : ""}`}
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
                    chosenFrom={chosen ? block.left : -1}
                    chosenTo={chosen ? block.right : -1}
                    signs={view.signs}
                    editing={editing?.entry === entries.ids[line.index] ? editing : null}
                    onPoint={onPoint}
                    onOpen={onOpen}
                    onEnd={onEnd}
                    onTake={takeLetter}
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

/** The columns of the grid; what was made wider or narrower by hand keeps its width. */
function columnsOf(languages: Schemas["LanguageReply"][], widths: Record<string, number>) {
  const source = widths[""];
  if (languages.length === 1) {
    return { columns: `${source ? `${source}px` : "minmax(220px, 45%)"} 44px minmax(240px, 1fr)`, width: undefined };
  }
  const texts = languages.map(({ language }) => widths[language.tag]);
  return {
    columns: [
      source ? `${source}px` : `minmax(${SOURCE_WIDTH}px, 330px)`,
      ...texts.map((wide) => (wide ? `${wide}px` : `minmax(${TEXT_WIDTH}px, 1fr)`)),
    ].join(" "),
    width: texts.reduce<number>((sum, wide) => sum + (wide ?? TEXT_WIDTH), source ?? SOURCE_WIDTH),
  };
}
