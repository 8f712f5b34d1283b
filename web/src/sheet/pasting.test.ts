import { describe, expect, it, vi } from "vitest";
import { aLanguage, aRow } from "../test/builders";
import { serve } from "../test/server";
import { Entries } from "./entries";
import { planOf, toSend } from "./pasting";
import { RowStore } from "./rowStore";

const settled = {
  language: "de",
  state: "settled",
  text: "Rampe",
  settled: true,
  version: 4,
  basedOn: 1,
  offers: [],
};
const rows = [
  aRow({ id: 1, key: "plain", cells: [settled] }),
  aRow({ id: 2, key: "fixed", translatable: false }),
  aRow({ id: 3, key: "cars", shape: "plural", sourceForms: { one: "car", other: "cars" } }),
];

async function plan(texts: string[], keptBy = new Map<string, Set<string>>()) {
  serve({ "GET /api/rows": rows });
  const store = new RowStore(["de"], vi.fn());
  expect(await store.load([1, 2, 3])).toBe(true);
  const entries = Entries.of({ deltas: [1, 1, 1], sections: [] });
  const puts = texts.map((text, row) => ({ place: { row, column: 0 }, text }));
  return planOf(puts, 2, entries, store, [aLanguage("de", "German")], keptBy);
}

describe("what pasting would do", () => {
  it("changes texts, with the version that was seen", async () => {
    const { changes, ...rest } = await plan(["Klappe", "x", "one: Auto\nother: Autos"]);
    expect(changes.map(toSend)).toEqual([
      { entry: 1, language: "de", version: 4, text: "Klappe" },
      { entry: 3, language: "de", version: 0, forms: { one: "Auto", other: "Autos" } },
    ]);
    expect(changes[0]).toMatchObject({ before: "Rampe", after: "Klappe", settled: true });
    expect(rest).toEqual({ same: 0, empty: 0, notHere: 1, wrongForms: 0, beyond: 2 });
  });

  it("puts nothing into a language that the table is not kept in", async () => {
    const { changes, notHere } = await plan(["Klappe"], new Map([["ramp-panel", new Set(["fi"])]]));
    expect(changes).toEqual([]);
    expect(notHere).toBe(1);
  });

  it("leaves what is the same, empty or of another shape", async () => {
    const { changes, ...rest } = await plan(["Rampe", "", "Autos"]);
    expect(changes).toEqual([]);
    expect(rest).toEqual({ same: 1, empty: 1, notHere: 0, wrongForms: 1, beyond: 2 });
  });
});
