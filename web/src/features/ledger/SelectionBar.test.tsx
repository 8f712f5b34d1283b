import { screen } from "@testing-library/react";
import { expect, it, vi } from "vitest";
import { aPerson, aRow, show } from "../../test/builders";
import { serve } from "../../test/server";
import { Entries } from "../../sheet/entries";
import { RowStore, type CellView } from "../../sheet/rowStore";
import { aSheet } from "./sheet.builders";
import { SelectionBar } from "./SelectionBar";
import { SheetProvider } from "./sheetModel";
import type { Blocks } from "../../sheet/useBlocks";

const settled: CellView = {
  language: "de",
  state: "settled",
  text: "Rampe",
  settled: true,
  version: 1,
  basedOn: 1,
  offers: [],
};

async function names(rows: number, levels: Record<string, "reviewer" | "contributor">, left = 0) {
  serve({
    "GET /api/rows": [aRow({ id: 1, cells: [settled] }), aRow({ id: 2, cells: [{ ...settled, state: "offered" }] })],
  });
  const store = new RowStore(["de"], vi.fn());
  await store.load([1, 2]);
  const blocks = { plan: null, busy: "" } as Blocks;
  show(
    <SheetProvider
      value={aSheet({
        me: aPerson({ levels }),
        entries: Entries.of({ deltas: Array.from({ length: rows }, () => 1), sections: [] }),
        store,
      })}
    >
      <SelectionBar block={{ top: 0, bottom: rows - 1, left, right: 0 }} blocks={blocks} onDrop={vi.fn()} />
    </SheetProvider>,
  );
  return screen.getAllByRole("button").map((button) => button.textContent);
}

it("counts what each answer fits, for those who may give it", async () => {
  expect(await names(2, { de: "reviewer" })).toEqual(expect.arrayContaining(["Settle 1 offer", "Clear 2 texts"]));
});

it("offers a contributor nothing that only a reviewer may do", async () => {
  expect((await names(2, { de: "contributor" })).filter((name) => /Settle|Clear/.test(name ?? ""))).toEqual([]);
});

it("claims no number where it has not counted", async () => {
  const shown = await names(6_000, { de: "reviewer" });
  expect(shown).toContain("Settle what is offered");
  expect(shown.join()).not.toMatch(/6,000/);
});

it("asks for the rights in the languages beside the chosen sources", async () => {
  expect(await names(2, { de: "reviewer" }, -1)).toContain("Settle 1 offer");
});
