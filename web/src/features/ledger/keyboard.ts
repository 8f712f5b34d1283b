/** What a key asks the sheet to do. */
export type Command =
  | { do: "move"; rows: number; columns: number }
  | { do: "page"; pages: number }
  | { do: "edge"; edge: "row-start" | "row-end" | "first" | "last" }
  | { do: "step"; columns: 1 | -1 }
  | { do: "edit"; replaceWith: string | null }
  | { do: "still-holds" }
  | { do: "find" }
  | { do: "keys" }
  | { do: "undo"; again: boolean }
  | { do: "leave-grid" };

/** What a key asks an open editor to do. */
export type EditorCommand = "put-forward" | "leave" | "next" | "previous";

/** The part of a keyboard event that decides. */
export interface KeyPress {
  key: string;
  ctrlKey: boolean;
  metaKey: boolean;
  altKey: boolean;
  shiftKey: boolean;
  isComposing: boolean;
}

/** The keys as people read them under "?", in one table with the classification below. */
export const KEYS = [
  ["arrows", "keys.arrows"],
  ["Tab", "keys.tab"],
  ["Home, End", "keys.home"],
  ["Page Up, Page Down", "keys.page"],
  ["Ctrl+Home, Ctrl+End", "keys.edges"],
  ["letters", "keys.type"],
  ["F2, Enter", "keys.edit"],
  ["Enter", "keys.enter"],
  ["Shift+Enter", "keys.newline"],
  ["Esc", "keys.escape"],
  ["=", "keys.holds"],
  ["Ctrl+Z", "keys.undo"],
  ["Ctrl+Y", "keys.redo"],
  ["/", "keys.find"],
  ["F6", "keys.region"],
  ["?", "keys.help"],
] as const;

const FIXED: Record<string, Command> = {
  ArrowUp: { do: "move", rows: -1, columns: 0 },
  ArrowDown: { do: "move", rows: 1, columns: 0 },
  ArrowLeft: { do: "move", rows: 0, columns: -1 },
  ArrowRight: { do: "move", rows: 0, columns: 1 },
  PageUp: { do: "page", pages: -1 },
  PageDown: { do: "page", pages: 1 },
  Home: { do: "edge", edge: "row-start" },
  End: { do: "edge", edge: "row-end" },
  "Ctrl+Home": { do: "edge", edge: "first" },
  "Ctrl+End": { do: "edge", edge: "last" },
  Tab: { do: "step", columns: 1 },
  "Shift+Tab": { do: "step", columns: -1 },
  F2: { do: "edit", replaceWith: null },
  Enter: { do: "edit", replaceWith: null },
  "Ctrl+z": { do: "undo", again: false },
  "Ctrl+y": { do: "undo", again: true },
  "Ctrl+Z": { do: "undo", again: true },
  F6: { do: "leave-grid" },
  "/": { do: "find" },
  "?": { do: "keys" },
};

/** What a key press asks the sheet to do while no cell is being edited, or null when it is none of the sheet's keys. */
export function commandFor(press: KeyPress, onStale: boolean): Command | null {
  if (press.isComposing || press.key === "Process") {
    // An input method is at work: typing begins with its first letter.
    return { do: "edit", replaceWith: "" };
  }
  const ctrl = press.ctrlKey || press.metaKey;
  if (press.altKey && !ctrl) return null;
  if (press.key === "=" && onStale && !ctrl) return { do: "still-holds" };
  const named = FIXED[`${ctrl ? "Ctrl+" : ""}${press.shiftKey && press.key === "Tab" ? "Shift+" : ""}${press.key}`];
  if (named) return named;
  // AltGr reports Ctrl and Alt together and types letters on many keyboards.
  const types = [...press.key].length === 1 && (!ctrl || press.altKey);
  return types ? { do: "edit", replaceWith: press.key } : null;
}

/** What a key press asks an open editor to do, or null when the text field handles it. */
export function editorCommandFor(press: KeyPress): EditorCommand | null {
  if (press.isComposing || press.key === "Process") return null;
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

/** A place in the sheet: entry by its index in the scope, language by its index in the scope. */
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
  const within = (value: number, size: number) => Math.max(0, Math.min(size - 1, value));
  switch (command.do) {
    case "move":
      return { row: within(from.row + command.rows, rows), column: within(from.column + command.columns, columns) };
    case "page":
      return { row: within(from.row + command.pages * pageRows, rows), column: from.column };
    case "edge":
      return {
        row: command.edge === "first" ? 0 : command.edge === "last" ? rows - 1 : from.row,
        column: command.edge === "row-start" || command.edge === "first" ? 0 : columns - 1,
      };
    case "step": {
      const flat = from.row * columns + from.column + command.columns;
      return flat < 0 || flat >= rows * columns ? null : { row: Math.floor(flat / columns), column: flat % columns };
    }
    default:
      return from;
  }
}
