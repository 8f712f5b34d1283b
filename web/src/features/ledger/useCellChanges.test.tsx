import { act, renderHook, waitFor } from "@testing-library/react";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { aRow } from "../../test/builders";
import { changes, refusal, serve } from "../../test/server";
import { RowStore, type CellView } from "./rowStore";
import { undoing } from "./undoing";
import { unsaved } from "./unsaved";
import { useCellChanges } from "./useCellChanges";
import { waiting } from "./waiting";

const cell: CellView = {
  language: "de",
  state: "pencilled",
  text: "Rampe",
  settled: false,
  version: 1,
  basedOn: 1,
  offers: [],
};
const PATH = "POST /api/entries/7/cells/de/changes";

async function open(answer: unknown) {
  const asked = serve({ "GET /api/rows": [aRow({ id: 7 })], [PATH]: answer });
  const store = new RowStore(["de"], vi.fn());
  await store.load([7]);
  const wrapper = ({ children }: { children: ReactNode }) => (
    <QueryClientProvider client={new QueryClient()}>{children}</QueryClientProvider>
  );
  const { result } = renderHook(() => useCellChanges(store), { wrapper });
  return { asked, store, hook: result };
}

describe("changing a cell", () => {
  beforeEach(() => {
    vi.restoreAllMocks();
    localStorage.clear();
    waiting.clear();
    undoing.forget();
  });

  it("keeps a text that nobody answered for, and sends it again by itself", async () => {
    let up = false;
    const { asked, store, hook } = await open(() =>
      up ? { change: 1, cell } : refusal(503, "table-busy", "A file is being taken in."),
    );
    await act(() => hook.current.change(7, "de", { action: "PENCIL", text: "Rampe" }, 0));
    expect(store.pending(7, "de")).toMatchObject({ status: "waiting", text: "Rampe" });
    expect(unsaved.all()).toMatchObject([{ text: "Rampe", sending: { action: "PENCIL", version: 0 } }]);
    up = true;
    act(() => waiting.now());
    await waitFor(() => expect(store.pending(7, "de")).toBeUndefined());
    expect(store.cell(7, "de")?.text).toBe("Rampe");
    expect(unsaved.all()).toEqual([]);
    expect(changes(asked)).toHaveLength(2);
  });

  it("sends what an earlier page could not, with the version that was seen then", async () => {
    const { asked, hook } = await open({ change: 1, cell });
    const sending = { action: "PUT_FORWARD", version: 4 };
    unsaved.keep({ entry: 7, language: "de", text: "Klappe", sending });
    act(() => unsaved.all().forEach((kept) => hook.current.resend(kept)));
    await waitFor(() => expect(changes(asked)).toHaveLength(1));
    expect(changes(asked)[0]?.json).toMatchObject({ action: "PUT_FORWARD", version: 4, text: "Klappe" });
  });

  it("never sends by itself what was only being typed", async () => {
    const { asked, hook } = await open({ change: 1, cell });
    act(() => hook.current.resend({ entry: 7, language: "de", text: "Kla" }));
    expect(changes(asked)).toEqual([]);
  });

  it("shows both texts when somebody else was quicker", async () => {
    const theirs = Response.json(
      { code: "cell-moved-on", detail: "Someone changed this text meanwhile.", cell: { ...cell, text: "Klappe" } },
      { status: 409 },
    );
    const { store, hook } = await open(theirs);
    await act(() => hook.current.change(7, "de", { action: "PENCIL", text: "Rampe" }, 0));
    expect(store.pending(7, "de")).toMatchObject({ status: "conflict", text: "Rampe", theirs: { text: "Klappe" } });
    expect(unsaved.all()).toMatchObject([{ text: "Rampe" }]);
    expect(unsaved.all()[0]?.sending).toBeUndefined();
  });

  it("takes its own text for no conflict when it was sent twice", async () => {
    const mine = Response.json({ code: "cell-moved-on", detail: "Someone changed this text.", cell }, { status: 409 });
    const { store, hook } = await open(mine);
    await act(() => hook.current.change(7, "de", { action: "PENCIL", text: "Rampe" }, 0));
    expect(store.pending(7, "de")).toBeUndefined();
    expect(unsaved.all()).toEqual([]);
  });
});
