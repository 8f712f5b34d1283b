import { describe, expect, it } from "vitest";
import { readBlock, readForms, writeBlock, writeForms } from "./clipboard";

describe("a block in the clipboard", () => {
  it.each([
    ["one cell", "Rampe", [["Rampe"]]],
    [
      "rows and cells",
      "a\tb\nc\td",
      [
        ["a", "b"],
        ["c", "d"],
      ],
    ],
    [
      "a line break at the end makes no row",
      "a\tb\r\nc\td\r\n",
      [
        ["a", "b"],
        ["c", "d"],
      ],
    ],
    [
      "empty cells",
      "\ta\t\n\t\t",
      [
        ["", "a", ""],
        ["", "", ""],
      ],
    ],
    ["a tab and a line break within quotes", '"a\tb"\t"c\r\nd"', [["a\tb", "c\nd"]]],
    ["doubled quotes", '"say ""ahoy""\nnow"\tx', [['say "ahoy"\nnow', "x"]]],
    ["a quote that is part of the text", '"Ahoy" he said\tx', [['"Ahoy" he said', "x"]]],
    ["a quote that is never closed", '"Ahoy\tx', [['"Ahoy', "x"]]],
    ["a quote in the middle", 'a 3" pipe\tx', [['a 3" pipe', "x"]]],
    ["rows of different length", "a\nb\tc", [["a"], ["b", "c"]]],
    ["an empty row in the middle", "a\n\nb", [["a"], [""], ["b"]]],
    ["nothing", "", [[""]]],
  ])("%s", (_, text, cells) => {
    expect(readBlock(text)).toEqual(cells);
  });

  it("reads what it writes", () => {
    const cells = [
      ['"quoted"', "tab\there", "line\nbreak"],
      ["", '3" pipe', "ランプ"],
      ['"open', 'ends with quote"', "\n"],
    ];
    expect(readBlock(writeBlock(cells))).toEqual(cells);
  });

  it("spells forms as lines and reads them again", () => {
    const forms = { one: "{n} bilet", few: "{n} bilety", other: "zwei\nZeilen: ja" };
    expect(writeForms(forms)).toBe("one: {n} bilet\nfew: {n} bilety\nother: zwei\nZeilen: ja");
    expect(readForms(writeForms(forms), ["one", "few", "many", "other"])).toEqual(forms);
    expect(readForms("just words", ["one", "other"])).toBeNull();
    expect(readForms("two: x", ["one", "other"])).toBeNull();
    expect(writeForms({ other: "plain: text" })).toBe("plain: text");
  });
});
