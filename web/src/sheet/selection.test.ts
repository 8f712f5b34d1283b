import { describe, expect, it } from "vitest";
import { blockOf, languagesIn, laidOut, placesIn, sizeOf } from "./selection";

const block = blockOf({ row: 4, column: 2 }, { row: 3, column: 1 });

describe("a selected block", () => {
  it("is the same whichever corner came first", () => {
    expect(block).toEqual({ top: 3, bottom: 4, left: 1, right: 2 });
    expect(sizeOf(block)).toBe(4);
    expect(placesIn(block)[1]).toEqual({ row: 3, column: 2 });
  });

  it.each([
    [
      { row: 4, column: 0 },
      { row: 3, column: 2 },
    ],
    [
      { row: 3, column: 2 },
      { row: 4, column: 0 },
    ],
    [
      { row: 3, column: 0 },
      { row: 4, column: 2 },
    ],
    [
      { row: 4, column: 2 },
      { row: 3, column: 0 },
    ],
  ])("has all four edges, from %j to %j", (anchor, place) => {
    expect(blockOf(anchor, place)).toEqual({ top: 3, bottom: 4, left: 0, right: 2 });
  });

  it.each([
    [-1, -1, []],
    [-1, 0, ["de"]],
    [-1, 2, ["de", "fi", "et"]],
    [1, 2, ["fi", "et"]],
  ])("has the languages from column %i to %i, and none for the sources", (left, right, tags) => {
    expect(languagesIn({ top: 0, bottom: 0, left, right }, ["de", "fi", "et"])).toEqual(tags);
  });

  it("takes a single pasted cell everywhere", () => {
    expect(laidOut([["x"]], block, 10, 3).puts.map((put) => put.place)).toEqual(placesIn(block));
  });

  it("takes more than itself, up to the last row and column, and counts the rest", () => {
    const { puts, beyond } = laidOut(
      [
        ["a", "b", "c"],
        ["d", "e", "f"],
        ["g", "h", "i"],
      ],
      block,
      5,
      3,
    );
    expect(puts.map((put) => put.text).join("")).toBe("abde");
    expect(beyond).toBe(5);
  });
});
