import { describe, expect, it } from "vitest";
import { Entries } from "./entries";

describe("the entries of a scope", () => {
  const entries = Entries.of({
    deltas: [10, 1, 1, -5, 20],
    sections: [
      { name: "Bow ramp", at: 0, table: "ramp-panel" },
      { name: "Bilge", at: 2, table: "ramp-panel" },
      { name: "", at: 4, table: "ramp-panel" },
    ],
  });

  it("adds up differences", () => {
    expect([...entries.ids]).toEqual([10, 11, 12, 7, 27]);
  });

  it("puts headings before the entries they head", () => {
    const shown = Array.from({ length: entries.lines }, (_, line) => {
      const at = entries.at(line);
      return at.kind === "section" ? `# ${at.name}` : at.index;
    });
    expect(shown).toEqual(["# Bow ramp", 0, 1, "# Bilge", 2, 3, "# ", 4]);
  });

  it("finds every entry's line", () => {
    expect([0, 1, 2, 3, 4].map((index) => entries.lineOf(index))).toEqual([1, 2, 4, 5, 7]);
  });

  it("has no headings when no section has a name", () => {
    const plain = Entries.of({ deltas: [1, 1], sections: [{ name: "", at: 0, table: "ramp-panel" }] });
    expect([plain.lines, plain.at(1), plain.lineOf(1)]).toEqual([2, { kind: "entry", index: 1 }, 1]);
  });

  it("hides what is folded, and steps over it", () => {
    const folded = entries.folding(new Set(["Bilge"]));
    const shown = Array.from({ length: folded.lines }, (_, line) => {
      const at = folded.at(line);
      return at.kind === "section" ? `# ${at.name} ${at.size}` : at.index;
    });
    expect(shown).toEqual(["# Bow ramp 2", 0, 1, "# Bilge 2", "#  1", 4]);
    expect([0, 1, 2, 3, 4].map((index) => folded.lineOf(index))).toEqual([1, 2, 3, 3, 5]);
    expect([folded.seen(2, 1), folded.seen(3, -1), folded.seen(4, 1), folded.hidden(3)]).toEqual([4, 1, 4, true]);
    expect(entries.folding(new Set(["Bow ramp"])).seen(0, -1)).toBe(2);
    expect([0, 2, 4].map((index) => folded.sectionOf(index))).toEqual(["Bow ramp", "Bilge", ""]);
  });
});
