import { describe, expect, it } from "vitest";
import { commandFor, destination, editorCommandFor, KEYS, SOURCE, type KeyPress } from "./keyboard";

const press = (key: string, held: Partial<KeyPress> = {}): KeyPress => ({
  key,
  ctrlKey: false,
  metaKey: false,
  altKey: false,
  shiftKey: false,
  isComposing: false,
  ...held,
});

describe("the sheet's keys", () => {
  it("guards an input method before anything else", () => {
    expect(commandFor(press("Enter", { isComposing: true }), false)).toEqual({ do: "edit", replaceWith: "" });
    expect(editorCommandFor(press("Enter", { isComposing: true }))).toBeNull();
    expect(commandFor(press("Process"), false)).toEqual({ do: "edit", replaceWith: "" });
  });

  it("types letters, those behind AltGr and outside the basic plane too", () => {
    expect(commandFor(press("ü"), false)).toEqual({ do: "edit", replaceWith: "ü" });
    expect(commandFor(press("ł", { ctrlKey: true, altKey: true }), false)).toEqual({ do: "edit", replaceWith: "ł" });
    expect(commandFor(press("🚢"), false)).toEqual({ do: "edit", replaceWith: "🚢" });
    expect(commandFor(press("c", { ctrlKey: true }), false)).toBeNull();
    expect(commandFor(press("1", { altKey: true }), false)).toBeNull();
  });

  it("takes footnotes by letter and placeholders by number, wherever the keyboard puts them", () => {
    expect(commandFor(press("b", { altKey: true }), false)).toEqual({ do: "take", letter: "b" });
    expect(commandFor(press("∫", { altKey: true, code: "KeyB" }), false)).toEqual({ do: "take", letter: "b" });
    expect(editorCommandFor(press("a", { altKey: true }))).toEqual({ take: "a" });
    expect(editorCommandFor(press("²", { altKey: true, code: "Digit2" }))).toEqual({ insert: 2 });
    expect(editorCommandFor(press("ł", { altKey: true, ctrlKey: true, code: "KeyL" }))).toBeNull();
  });

  it("extends a selection with Shift, and acts on it", () => {
    expect(commandFor(press("ArrowDown", { shiftKey: true }), false)).toMatchObject({ do: "move", extend: true });
    expect(commandFor(press("End", { shiftKey: true, ctrlKey: true }), false)).toMatchObject({
      edge: "last",
      extend: true,
    });
    expect(commandFor(press("Tab", { shiftKey: true }), false)).toEqual({ do: "step", columns: -1 });
    expect(commandFor(press("d", { ctrlKey: true }), false)).toEqual({ do: "fill" });
    expect(commandFor(press("Delete"), false)).toEqual({ do: "clear" });
    expect(commandFor(press("Backspace"), false)).toEqual({ do: "clear" });
    expect(commandFor(press("Enter", { ctrlKey: true }), false)).toEqual({ do: "put-forward" });
  });

  it("has no press in two rows of the table that people read", () => {
    const all = KEYS.flatMap((row) => Object.keys(row.keys ?? {}));
    expect(new Set(all).size).toBe(all.length);
  });

  it("says that a stale text still holds, and types = elsewhere", () => {
    expect(commandFor(press("="), true)).toEqual({ do: "still-holds" });
    expect(commandFor(press("="), false)).toEqual({ do: "edit", replaceWith: "=" });
  });

  it("ends an editor", () => {
    expect(editorCommandFor(press("Enter"))).toBe("put-forward");
    expect(editorCommandFor(press("Enter", { shiftKey: true }))).toBeNull();
    expect(editorCommandFor(press("Escape"))).toBe("leave");
    expect(editorCommandFor(press("Tab", { shiftKey: true }))).toBe("previous");
  });

  it.each([
    ["ArrowDown", {}, { row: 3, column: 1 }],
    ["ArrowLeft", {}, { row: 2, column: 0 }],
    ["Home", {}, { row: 2, column: 0 }],
    ["End", {}, { row: 2, column: 2 }],
    ["Home", { ctrlKey: true }, { row: 0, column: 0 }],
    ["End", { ctrlKey: true }, { row: 9, column: 2 }],
    ["PageDown", {}, { row: 6, column: 1 }],
    ["Tab", {}, { row: 2, column: 2 }],
    ["Tab", { shiftKey: true }, { row: 2, column: 0 }],
  ])("%s %j leads from the middle to %j", (key, held, to) => {
    const command = commandFor(press(key, held), false);
    expect(command && destination(command, { row: 2, column: 1 }, 10, 3, 4)).toEqual(to);
  });

  it.each([
    ["ArrowLeft", {}, 0, { row: 2, column: SOURCE }],
    ["ArrowLeft", {}, SOURCE, { row: 2, column: SOURCE }],
    ["ArrowRight", {}, SOURCE, { row: 2, column: 0 }],
    ["ArrowDown", {}, SOURCE, { row: 3, column: SOURCE }],
    ["Tab", {}, SOURCE, { row: 2, column: 0 }],
    ["Tab", { shiftKey: true }, SOURCE, { row: 1, column: 2 }],
    ["Home", {}, SOURCE, { row: 2, column: 0 }],
  ])("reaches the source, and leaves it again: %s %j from %i", (key, held, column, to) => {
    const command = commandFor(press(key, held), false);
    expect(command && destination(command, { row: 2, column }, 10, 3, 4)).toEqual(to);
  });

  it("goes to the next row at the end of one, and leaves at the end of all", () => {
    const tab = commandFor(press("Tab"), false);
    expect(tab && destination(tab, { row: 2, column: 2 }, 10, 3, 4)).toEqual({ row: 3, column: 0 });
    expect(tab && destination(tab, { row: 9, column: 2 }, 10, 3, 4)).toBeNull();
  });
});
