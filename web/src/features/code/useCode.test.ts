import { describe, expect, it } from "vitest";
import { chosenOf, toggled, wordsFor } from "./useCode";

describe("what is chosen of a list", () => {
  it("keeps to what is shown, in its order", () => {
    expect(chosenOf(new Set(["c", "a", "x"]), ["a", "b", "c"])).toEqual(["a", "c"]);
  });

  it("takes one more or one less", () => {
    expect([...toggled(new Set([1]), [1, 2, 3], 2, null)]).toEqual([1, 2]);
    expect([...toggled(new Set([1, 2]), [1, 2, 3], 1, null)]).toEqual([2]);
  });

  it("takes all between two, whichever was first", () => {
    expect([...toggled(new Set([4]), [1, 2, 3, 4], 2, 4)].sort()).toEqual([2, 3, 4]);
    expect([...toggled(new Set([1, 2, 3]), [1, 2, 3, 4], 3, 2)]).toEqual([1]);
    expect([...toggled(new Set<number>(), [1, 2, 3], 3, 9)]).toEqual([3]);
  });
});

describe("words for a key", () => {
  it.each([
    ["menu.title", "Title"],
    ["menu.the-end", "The end"],
    ["boarding_lost_pass", "Boarding lost pass"],
    ["saveAll", "Save all"],
    ["a:b/c", "C"],
    ["x.", ""],
  ])("of %s are %s", (key, words) => {
    expect(wordsFor(key)).toBe(words);
  });
});
