import { describe, expect, it } from "vitest";
import { broken, missingFrom, placeholdersIn, snapped } from "./guarding";

const TEXT = "Ahoy {name}, %1$d m";

describe("placeholders in an editor", () => {
  it("are found with their places", () => {
    expect(placeholdersIn(TEXT)).toEqual([
      { start: 5, end: 11 },
      { start: 13, end: 17 },
    ]);
  });

  it.each([
    ["a caret from the left goes to the right side", { start: 6, end: 6 }, 5, { start: 11, end: 11 }],
    ["a caret from the right goes to the left side", { start: 10, end: 10 }, 11, { start: 5, end: 5 }],
    ["a caret beside one stays", { start: 5, end: 5 }, 4, { start: 5, end: 5 }],
    ["a range takes in what it cuts", { start: 7, end: 15 }, 7, { start: 5, end: 17 }],
    ["a range of words stays", { start: 0, end: 4 }, 0, { start: 0, end: 4 }],
  ])("%s", (_, selection, before, expected) => {
    expect(snapped(TEXT, selection, before)).toEqual(expected);
  });

  it("go as a whole", () => {
    expect(broken(TEXT, 11, "Backspace")).toEqual({ start: 5, end: 11 });
    expect(broken(TEXT, 13, "Delete")).toEqual({ start: 13, end: 17 });
    expect(broken(TEXT, 12, "Backspace")).toBeNull();
  });

  it("are missed as often as the source has them", () => {
    expect(missingFrom("{n} von", ["{n}", "{n}", "%s"])).toEqual(["{n}", "%s"]);
    expect(missingFrom("%s {n} {n}", ["{n}", "{n}", "%s"])).toEqual([]);
  });
});
