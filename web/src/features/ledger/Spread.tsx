import { defaultRangeExtractor, useVirtualizer } from "@tanstack/react-virtual";
import { useEffect, useLayoutEffect, useMemo, type RefObject } from "react";
import { listed, t } from "../../words/words";
import { takenAway } from "../../sheet/ending";
import { commandFor, SOURCE } from "../../sheet/keyboard";
import { playsSound } from "./playsSound";
import { sizeOf } from "../../sheet/selection";
import type { Forms } from "../../text/shapes";
import { cellId } from "./cellId";
import { drafting } from "./drafting";
import { useSheet } from "./sheetModel";
import { SpreadHead } from "./SpreadHead";
import type { Hands } from "./hands";
import { SpreadRow } from "./SpreadRow";
import { FEW, useColumns } from "./useColumns";
import type { Blocks } from "../../sheet/useBlocks";
import type { Cursor } from "../../sheet/useCursor";
import type { Editor } from "../../sheet/useEditing";
import { useStable } from "../../sheet/useStable";
import "./spread.css";

const ROW_HEIGHT = 56;
const LOW_ROW_HEIGHT = 32;
const SECTION_HEIGHT = 30;
const HEAD_HEIGHT = 34;
const OVERSCAN = 8;
/** Of many languages every line has many cells to draw. */
const WIDE_OVERSCAN = 3;

/** What leads from the cells to other parts of the screen. */
export type Beyond = "find" | "keys" | "leave-grid" | "go-to" | "replace" | "undo" | "redo" | "rewrite";

interface Props {
  /** The element that has the focus while one moves. */
  grid: RefObject<HTMLDivElement | null>;
  cursor: Cursor;
  editor: Editor;
  blocks: Blocks;
  onBeyond: (what: Beyond) => void;
  /** The text of the footnote of that letter. */
  noteOf: (letter: string) => Forms | null;
}

/** The two-page spread: a grid with one tab stop, whose rows and columns exist only while they are seen. */
export function Spread({ grid, cursor, editor, blocks, onBeyond, noteOf }: Props) {
  const { entries, store, tables, languages, me, changes, view, onView, onSay } = useSheet();
  const { place, block, move, choose } = cursor;
  const { editing, open, take, end } = editor;
  const rowHeight = view.compact ? LOW_ROW_HEIGHT : ROW_HEIGHT;
  const currentLine = entries.lineOf(place.row);
  /** The line of the open editor, which stays when the cursor goes elsewhere, until its text has ended. */
  const editedLine = useMemo(() => {
    const row = editing ? entries.ids.indexOf(editing.entry) : -1;
    return row < 0 ? currentLine : entries.lineOf(row);
  }, [editing, entries, currentLine]);
  const overscan = languages.length > FEW ? WIDE_OVERSCAN : OVERSCAN;
  const virtual = useVirtualizer({
    count: entries.lines,
    getScrollElement: () => grid.current,
    estimateSize: (line) => (entries.at(line).kind === "section" ? SECTION_HEIGHT : rowHeight),
    overscan,
    // The head stands in the flow above the lines and stays over them.
    scrollMargin: HEAD_HEIGHT,
    scrollPaddingStart: HEAD_HEIGHT,
    // The line under the cursor always exists, so that typing right after a jump finds its editor.
    rangeExtractor: (range) => {
      const seen = new Set([...defaultRangeExtractor(range), currentLine, editedLine]);
      return [...seen].sort((a, b) => a - b);
    },
  });
  const items = virtual.getVirtualItems();
  const firstLine = virtual.range?.startIndex ?? 0;
  const lastLine = virtual.range?.endIndex ?? 0;
  const columns = useColumns(grid, languages, view.widths);

  useEffect(() => virtual.measure(), [virtual, entries, rowHeight]);
  useEffect(() => {
    if (entries.lines === 0) return;
    const from = entries.indexFrom(firstLine);
    store.ensure(entries.ids, from - OVERSCAN, from + (lastLine - firstLine) + 2 * OVERSCAN);
  }, [entries, store, firstLine, lastLine]);

  // Before the picture that shows the cursor is drawn, or there would be one more with the cursor out of sight.
  useLayoutEffect(() => {
    virtual.scrollToIndex(currentLine, { align: "auto" });
  }, [virtual, currentLine]);

  useLayoutEffect(() => {
    document.getElementById(cellId(place.row, place.column))?.scrollIntoView({ block: "nearest", inline: "nearest" });
  }, [place]);

  const takeLetter = useStable((letter: string): boolean => {
    const forms = noteOf(letter);
    if (forms) take(forms);
    return forms !== null;
  });

  const pageRows = () => Math.max(1, Math.floor((grid.current?.clientHeight ?? rowHeight) / rowHeight) - 1);

  /** Takes away what the chosen cells have; of a single one also what one offers there oneself. */
  const clear = () => {
    const [id, tag] = [entries.ids[place.row] ?? 0, languages[place.column]?.language.tag ?? ""];
    const change = sizeOf(block) === 1 ? takenAway(store.cell(id, tag), true, me.id) : null;
    if (change) void changes.change(id, tag, change).then((wrong) => wrong && onSay(wrong));
    else void blocks.act("CLEAR");
  };
  const toggle = (name: string) => {
    const folded = view.folded.includes(name) ? view.folded.filter((one) => one !== name) : [...view.folded, name];
    onView({ folded });
  };
  const onKeyDown = (event: React.KeyboardEvent) => {
    const id = entries.ids[place.row];
    if (editing || id === undefined) return;
    const tag = languages[place.column]?.language.tag ?? "";
    const stale = store.cell(id, tag)?.state === "stale";
    const { key, code, ctrlKey, metaKey, altKey, shiftKey } = event;
    const isComposing = event.nativeEvent.isComposing;
    if (key === " " && !ctrlKey && !altKey && !metaKey && playsSound(store, id, place.column === SOURCE ? null : tag)) {
      event.preventDefault();
      return;
    }
    const command = commandFor({ key, code, ctrlKey, metaKey, altKey, shiftKey, isComposing }, stale);
    if (!command) return;
    const several = sizeOf(block) > 1;
    switch (command.do) {
      case "edit":
        if (place.column !== SOURCE) open(command.replaceWith);
        else if (command.replaceWith === null) onBeyond("rewrite");
        else onSay(t("source.notTyped"));
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
      case "draft":
        if (place.column === SOURCE) return;
        onSay(t("draft.asking"));
        void drafting(store, id, tag).then(onSay);
        break;
      case "clear":
        clear();
        break;
      case "fill":
        void blocks.fill();
        break;
      case "all":
        choose({ row: 0, column: 0 }, { row: entries.size - 1, column: languages.length - 1 });
        break;
      case "unselect":
        choose(place, place);
        break;
      case "fold": {
        const section = entries.sectionOf(place.row);
        if (section !== null) toggle(section);
        break;
      }
      case "undo":
        onBeyond(command.again ? "redo" : "undo");
        break;
      case "find":
      case "keys":
      case "leave-grid":
      case "go-to":
      case "replace":
        onBeyond(command.do);
        break;
      default:
        if (!cursor.go(command, pageRows())) return;
    }
    event.preventDefault();
  };

  // Rows are drawn again only when something in them changes, so what they are given must stay the same.
  const onPoint = useStable((row: number, column: number, extend: boolean) => move({ row, column }, extend));
  const onOpen = useStable(() => (place.column === SOURCE ? onBeyond("rewrite") : open(null)));
  const onEnd = useStable(end);
  const hands = useMemo<Hands>(
    () => ({ onPoint, onOpen, onEnd, onTake: takeLetter }),
    [onPoint, onOpen, onEnd, takeLetter],
  );
  const single = languages.length === 1;
  const classes = [
    "spread",
    single ? "" : "several",
    columns.spots ? "wide" : "",
    view.compact ? "low" : "",
    view.signs ? "signs" : "",
  ];

  return (
    <div className={classes.filter((name) => name !== "").join(" ")}>
      <div
        ref={grid}
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
          if (one && place.column === SOURCE) onSay(t("source.notTyped"));
          else if (one) open(text);
          else void blocks.paste(text);
        }}
      >
        <SpreadHead columns={columns} />
        <div className="lines" style={{ height: virtual.getTotalSize(), minWidth: columns.width }} role="presentation">
          {items.map((item) => {
            if (item.index >= entries.lines) return null;
            const line = entries.at(item.index);
            const style = {
              transform: `translateY(${item.start - HEAD_HEIGHT}px)`,
              gridTemplateColumns: columns.template,
            };
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
            const id = entries.ids[line.index] ?? 0;
            const here = line.index === place.row;
            const chosen = line.index >= block.top && line.index <= block.bottom && sizeOf(block) > 1;
            const edited = editing?.entry === id;
            return (
              <div
                key={item.key}
                className={`line${here ? " here" : ""}${edited ? " open" : ""}`}
                role="row"
                aria-rowindex={item.index + 2}
                style={style}
              >
                <SpreadRow
                  id={id}
                  index={line.index}
                  cursor={here ? place.column : null}
                  chosenFrom={chosen ? block.left : 0}
                  chosenTo={chosen ? block.right : SOURCE}
                  editing={edited ? editing : null}
                  columns={columns}
                  hands={hands}
                />
              </div>
            );
          })}
        </div>
      </div>
    </div>
  );
}
