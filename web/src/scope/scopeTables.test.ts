import { describe, expect, it } from "vitest";
import { aLanguage, aTable } from "../test/builders";
import { EVERYTHING } from "./scope";
import { languagesOf, left, tablesOf } from "./scopeTables";

const ramp = aTable();
const deck = aTable({
  id: 2,
  slug: "deckside",
  name: "Deckside",
  languages: [aLanguage("de", "German"), aLanguage("ja", "Japanese")],
});
const product = {
  id: 1,
  slug: "app",
  name: "App",
  kind: "app",
  tables: [{ slug: "deckside", name: "Deckside" }],
  languages: [],
  hosts: {},
  version: 0,
};

describe("the tables of a scope", () => {
  it("are all, those named, or a product's", () => {
    expect(tablesOf(EVERYTHING, [ramp, deck], [])).toEqual([ramp, deck]);
    expect(tablesOf({ ...EVERYTHING, tables: ["deckside", "ramp-panel"] }, [ramp, deck], [])).toEqual([deck, ramp]);
    expect(tablesOf({ ...EVERYTHING, product: "app" }, [ramp, deck], [product])).toEqual([deck]);
  });

  it("are none when one of them does not exist", () => {
    expect(tablesOf({ ...EVERYTHING, tables: ["nowhere"] }, [ramp], [])).toBeUndefined();
    expect(tablesOf({ ...EVERYTHING, product: "nothing" }, [ramp], [])).toBeUndefined();
    expect(tablesOf({ ...EVERYTHING, product: "app" }, [deck], [{ ...product, tables: [] }])).toEqual([]);
  });

  it("have each language once, added up", () => {
    const all = languagesOf([ramp, deck]);
    expect(all.map((kept) => kept.language.tag)).toEqual(["de", "fi", "ja"]);
    expect(all[0]?.states.settled).toBe(20);
    expect(left(aLanguage("de", "German", { states: { settled: 5, stale: 2, untranslated: 3 } }), "entries")).toBe(5);
  });
});
