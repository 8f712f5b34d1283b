import { act, renderHook } from "@testing-library/react";
import { expect, it, vi } from "vitest";
import { aLanguage, aRow } from "../test/builders";
import { serve } from "../test/server";
import { Entries } from "./entries";
import { SOURCE } from "./keyboard";
import { RowStore } from "./rowStore";
import { useBlocks } from "./useBlocks";

async function blocks(left: number, right: number) {
  const cell = { language: "de", state: "settled", settled: true, version: 1, basedOn: 1, offers: [], text: "Rampe" };
  serve({ "GET /api/rows": [aRow({ id: 1, source: "Ramp", cells: [cell] }), aRow({ id: 2, source: "Deck" })] });
  const store = new RowStore(["de"], vi.fn());
  await store.load([1, 2]);
  const say = vi.fn();
  const { result } = renderHook(() =>
    useBlocks({
      entries: Entries.of({ deltas: [1, 1], sections: [] }),
      store,
      languages: [aLanguage("de", "German")],
      keptBy: new Map(),
      block: { top: 0, bottom: 1, left, right },
      changes: { change: vi.fn(), many: vi.fn() },
      onSay: say,
    }),
  );
  return { result, say };
}

function aClipboard() {
  const held = new Map<string, string>();
  return {
    held,
    transfer: { setData: (kind: string, text: string) => held.set(kind, text) } as unknown as DataTransfer,
  };
}

it.each([
  ["sources with their texts", SOURCE, 0, "Ramp\tRampe\nDeck\t"],
  ["sources alone", SOURCE, SOURCE, "Ramp\nDeck"],
  ["texts alone", 0, 0, "Rampe\n"],
])("copies %s", async (_what, left, right, copied) => {
  const { result } = await blocks(left, right);
  const { held, transfer } = aClipboard();
  act(() => result.current.copy(transfer));
  expect(held.get("text/plain")?.replaceAll("\r\n", "\n")).toBe(copied);
});

it("puts nothing into the column of the sources", async () => {
  const { result } = await blocks(SOURCE, SOURCE);
  await act(() => result.current.paste("a\nb"));
  expect(result.current.plan?.plan).toMatchObject({ changes: [], notHere: 2 });
});

it("says that there is nothing to clear in sources", async () => {
  const { result, say } = await blocks(SOURCE, SOURCE);
  await act(() => result.current.act("CLEAR"));
  expect(say).toHaveBeenCalledWith("There is nothing to do this to in the chosen cells.");
});
