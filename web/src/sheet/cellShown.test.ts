import { describe, expect, it } from "vitest";
import { cellShown } from "./cellShown";
import type { CellView } from "./rowStore";

const aCell = (part: Partial<CellView>): CellView => ({
  language: "de",
  state: "settled",
  text: "Rampe",
  settled: true,
  version: 1,
  basedOn: 1,
  offers: [],
  ...part,
});
const offer = {
  id: 1,
  text: "Klappe",
  author: "Hanne Brook",
  authorId: 2,
  at: new Date().toISOString(),
  basedOn: 1,
  note: "",
};

describe("what a cell shows", () => {
  it("shows nothing for a cell nobody touched", () => {
    expect(cellShown(undefined, undefined)).toMatchObject({ state: "untranslated", text: "", remark: "" });
  });

  it("shows the newest offer in place of the text in force, and who offers it", () => {
    const shown = cellShown(aCell({ state: "offered", offers: [{ ...offer, text: "Alt" }, offer] }), undefined);
    expect(shown.text).toBe("Klappe");
    expect(shown.remark).toBe("2 offers, the newest by Hanne Brook, just now");
  });

  it("says why an offer came back", () => {
    expect(cellShown(aCell({ state: "returned", returned: "too long" }), undefined).remark).toBe("returned: too long");
  });

  it("keeps a text in sight that could not be saved, with the reason", () => {
    const shown = cellShown(aCell({}), { forms: { other: "Neu" }, status: "failed", sentence: "The server is away." });
    expect(shown).toMatchObject({ text: "Neu", unsaved: true, tone: "blocked" });
    expect(shown.remark).toContain("The server is away.");
  });
});
