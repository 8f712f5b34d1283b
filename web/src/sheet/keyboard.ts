import type { WordKey } from "../words/words";

/** What a key asks the sheet to do. */
export type Command =
  | { do: "move"; rows: number; columns: number; extend?: boolean }
  | { do: "page"; pages: number; extend?: boolean }
  | { do: "edge"; edge: "row-start" | "row-end" | "first" | "last"; extend?: boolean }
  | { do: "step"; columns: 1 | -1 }
  | { do: "edit"; replaceWith: string | null }
  | { do: "take"; letter: string }
  | { do: "undo"; again: boolean }
  | { do: Plain };

type Plain =
  | "still-holds"
  | "put-forward"
  | "draft"
  | "clear"
  | "fill"
  | "all"
  | "unselect"
  | "fold"
  | "go-to"
  | "find"
  | "replace"
  | "keys"
  | "leave-grid";

/** What a key asks an open editor to do; a letter takes a footnote's text, a number a placeholder of the source. */
export type EditorCommand = "put-forward" | "leave" | "next" | "previous" | { take: string } | { insert: number };

/** The part of a keyboard event that decides. */
export interface KeyPress {
  key: string;
  /** The place of the key, which tells letters where Alt makes others of them. */
  code?: string;
  ctrlKey: boolean;
  metaKey: boolean;
  altKey: boolean;
  shiftKey: boolean;
  isComposing: boolean;
}

interface Row {
  /** As people read it under "?". */
  shown: string;
  meaning: WordKey;
  /** Which presses of the sheet it is; none for keys of an open cell and of the clipboard, which the browser tells of. */
  keys?: Record<string, Command>;
}

/** Every key: what people read under "?" and what the sheet does are one table. */
export const KEYS: Row[] = [
  {
    shown: "arrows",
    meaning: "keys.arrows",
    keys: {
      ArrowUp: { do: "move", rows: -1, columns: 0 },
      ArrowDown: { do: "move", rows: 1, columns: 0 },
      ArrowLeft: { do: "move", rows: 0, columns: -1 },
      ArrowRight: { do: "move", rows: 0, columns: 1 },
    },
  },
  {
    shown: "Tab",
    meaning: "keys.tab",
    keys: { Tab: { do: "step", columns: 1 }, "Shift+Tab": { do: "step", columns: -1 } },
  },
  {
    shown: "Home, End",
    meaning: "keys.home",
    keys: { Home: { do: "edge", edge: "row-start" }, End: { do: "edge", edge: "row-end" } },
  },
  {
    shown: "Page Up, Page Down",
    meaning: "keys.page",
    keys: { PageUp: { do: "page", pages: -1 }, PageDown: { do: "page", pages: 1 } },
  },
  {
    shown: "Ctrl+Home, Ctrl+End",
    meaning: "keys.edges",
    keys: { "Ctrl+Home": { do: "edge", edge: "first" }, "Ctrl+End": { do: "edge", edge: "last" } },
  },
  { shown: "Ctrl+G", meaning: "keys.goTo", keys: { "Ctrl+g": { do: "go-to" } } },
  { shown: "Ctrl+.", meaning: "keys.fold", keys: { "Ctrl+.": { do: "fold" } } },
  { shown: "letters", meaning: "keys.type" },
  {
    shown: "F2, Enter",
    meaning: "keys.edit",
    keys: { F2: { do: "edit", replaceWith: null }, Enter: { do: "edit", replaceWith: null } },
  },
  { shown: "Enter", meaning: "keys.enter" },
  { shown: "Ctrl+Enter", meaning: "keys.enterAll" },
  { shown: "Shift+Enter", meaning: "keys.newline" },
  { shown: "Esc", meaning: "keys.escape" },
  { shown: "Alt+letter", meaning: "keys.take" },
  { shown: "Alt+number", meaning: "keys.insert" },
  { shown: "Alt+M", meaning: "keys.mend" },
  { shown: "Space", meaning: "keys.play" },
  { shown: "=", meaning: "keys.holds" },
  { shown: "Shift+arrows", meaning: "keys.extend" },
  { shown: "Ctrl+A, Esc", meaning: "keys.all", keys: { "Ctrl+a": { do: "all" }, Escape: { do: "unselect" } } },
  { shown: "Ctrl+C, Ctrl+V", meaning: "keys.clipboard" },
  { shown: "Ctrl+D", meaning: "keys.fill", keys: { "Ctrl+d": { do: "fill" } } },
  { shown: "Ctrl+Enter", meaning: "keys.putForward", keys: { "Ctrl+Enter": { do: "put-forward" } } },
  { shown: "F8", meaning: "draft.key", keys: { F8: { do: "draft" } } },
  { shown: "Delete", meaning: "keys.clear", keys: { Delete: { do: "clear" }, Backspace: { do: "clear" } } },
  { shown: "Ctrl+Z", meaning: "keys.undo", keys: { "Ctrl+z": { do: "undo", again: false } } },
  {
    shown: "Ctrl+Y",
    meaning: "keys.redo",
    keys: { "Ctrl+y": { do: "undo", again: true }, "Ctrl+Z": { do: "undo", again: true } },
  },
  { shown: "/", meaning: "keys.find", keys: { "/": { do: "find" } } },
  { shown: "Ctrl+H", meaning: "keys.replace", keys: { "Ctrl+h": { do: "replace" } } },
  { shown: "F6", meaning: "keys.region", keys: { F6: { do: "leave-grid" } } },
  { shown: "?", meaning: "keys.help", keys: { "?": { do: "keys" } } },
];

const COMMANDS: Record<string, Command> = Object.assign({}, ...KEYS.map((row) => row.keys ?? {})) as Record<
  string,
  Command
>;

/** What a key press asks the sheet to do while no cell is being edited, or null when it is none of the sheet's keys. */
export function commandFor(press: KeyPress, onStale: boolean): Command | null {
  if (press.isComposing || press.key === "Process") {
    // An input method is at work: typing begins with its first letter.
    return { do: "edit", replaceWith: "" };
  }
  const ctrl = press.ctrlKey || press.metaKey;
  if (press.altKey && !ctrl) {
    const letter = letterOf(press);
    return letter ? { do: "take", letter } : null;
  }
  if (press.key === "=" && onStale && !ctrl) return { do: "still-holds" };
  const held = ctrl ? "Ctrl+" : "";
  const named = press.shiftKey ? COMMANDS[`${held}Shift+${press.key}`] : undefined;
  const command = named ?? COMMANDS[held + press.key];
  if (command) {
    const moves = command.do === "move" || command.do === "page" || command.do === "edge";
    return press.shiftKey && moves ? { ...command, extend: true } : command;
  }
  // AltGr reports Ctrl and Alt together and types letters on many keyboards.
  const types = [...press.key].length === 1 && (!ctrl || press.altKey);
  return types ? { do: "edit", replaceWith: press.key } : null;
}

function letterOf(press: KeyPress): string | null {
  const byPlace = /^Key([A-Z])$/.exec(press.code ?? "")?.[1];
  const letter = (byPlace ?? press.key).toLowerCase();
  return /^[a-z]$/.test(letter) ? letter : null;
}

/** What a key press asks an open editor to do, or null when the text field handles it. */
export function editorCommandFor(press: KeyPress): EditorCommand | null {
  if (press.isComposing || press.key === "Process") return null;
  if (press.altKey && !press.ctrlKey && !press.metaKey) {
    const number = /^(?:Digit|Numpad)?([1-9])$/.exec(press.code ?? press.key)?.[1];
    const letter = letterOf(press);
    return number ? { insert: Number(number) } : letter ? { take: letter } : null;
  }
  switch (press.key) {
    case "Enter":
      return press.shiftKey || press.altKey ? null : "put-forward";
    case "Escape":
      return "leave";
    case "Tab":
      return press.shiftKey ? "previous" : "next";
    default:
      return null;
  }
}

/** The column of the sources, before those of the languages. */
export const SOURCE = -1;

/** A place in the sheet: entry by its index in the scope, column by the index of its language in the scope, or SOURCE. */
export interface Place {
  row: number;
  column: number;
}

/** Where a command leads, or null when it leads out of the sheet. Touches nothing. */
export function destination(
  command: Command,
  from: Place,
  rows: number,
  columns: number,
  pageRows: number,
): Place | null {
  const within = (value: number, size: number, first = 0) => Math.max(first, Math.min(size - 1, value));
  switch (command.do) {
    case "move":
      return {
        row: within(from.row + command.rows, rows),
        column: within(from.column + command.columns, columns, SOURCE),
      };
    case "page":
      return { row: within(from.row + command.pages * pageRows, rows), column: from.column };
    case "edge":
      return {
        row: command.edge === "first" ? 0 : command.edge === "last" ? rows - 1 : from.row,
        column: command.edge === "row-start" || command.edge === "first" ? 0 : columns - 1,
      };
    case "step": {
      // From a source on and back as from the first text: the tabulator goes from text to text.
      const at = from.column === SOURCE && command.columns < 0 ? 0 : from.column;
      const flat = from.row * columns + at + command.columns;
      return flat < 0 || flat >= rows * columns ? null : { row: Math.floor(flat / columns), column: flat % columns };
    }
    default:
      return from;
  }
}
