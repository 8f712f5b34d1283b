import { act, renderHook } from "@testing-library/react";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { aRow } from "../../test/builders";
import { changes, serve } from "../../test/server";
import { outbox } from "../../sheet/outbox/outbox";
import { RowStore } from "../../sheet/rowStore";
import { undoing } from "../../sheet/undoing";
import { useUndo } from "./useUndo";

let person = 700;

function aSheet(answers: Record<string, unknown>) {
  const asked = serve({ "GET /api/rows": [aRow({ id: 7 })], ...answers });
  const store = new RowStore(["de"], vi.fn());
  const say = vi.fn();
  const readAgain = vi.fn();
  const { result } = renderHook(() => useUndo(store, say, readAgain));
  return { asked, store, say, readAgain, undo: (again: boolean) => act(() => result.current(again)) };
}

const undone = { change: 10, refused: [], lowered: [], entries: [7] };

describe("undo in the sheet", () => {
  beforeEach(() => {
    vi.restoreAllMocks();
    undoing.belongTo(++person);
    undoing.forget();
  });

  it("waits for what is on its way, which is the last change", async () => {
    const { asked, undo } = aSheet({
      "POST /api/changes/8/undo": undone,
      "POST /api/changes/9/undo": undone,
    });
    undoing.did({ change: 8, entries: [7] });
    let arrive: () => void = () => undefined;
    vi.spyOn(outbox, "rest").mockReturnValue(new Promise((resolve) => (arrive = resolve)));
    undo(false);
    await Promise.resolve();
    expect(changes(asked)).toEqual([]);
    undoing.did({ change: 9, entries: [7] });
    arrive();
    await vi.waitFor(() => expect(changes(asked).map((one) => one.path)).toEqual(["/api/changes/9/undo"]));
  });

  it("says that there is nothing", async () => {
    const { say, undo } = aSheet({});
    undo(false);
    await vi.waitFor(() => expect(say).toHaveBeenCalledWith("There is nothing to take back."));
    undo(true);
    await vi.waitFor(() => expect(say).toHaveBeenCalledWith("Nothing was taken back that could be done again."));
  });

  it("reads the scope again where an entry came or went, and only the rows where none did", async () => {
    const { store, undo, readAgain, asked } = aSheet({
      "POST /api/changes/8/undo": undone,
      "POST /api/changes/10/undo": { ...undone, change: 11 },
    });
    undoing.did({ change: 8, entries: [7] });
    undo(false);
    await vi.waitFor(() => expect(readAgain).toHaveBeenCalledOnce());
    await store.load([7]);
    undo(true);
    await vi.waitFor(() => expect(asked.filter((one) => one.path.startsWith("/api/rows"))).toHaveLength(2));
    expect(readAgain).toHaveBeenCalledOnce();
  });
});
