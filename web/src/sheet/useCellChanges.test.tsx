import { act, renderHook, waitFor } from "@testing-library/react";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { outbox } from "./outbox/outbox";
import { waiting } from "./outbox/waiting";
import { aRow } from "../test/builders";
import { changes, refusal, serve } from "../test/server";
import { RowStore, type CellView } from "./rowStore";
import { undoing } from "./undoing";
import { useCellChanges } from "./useCellChanges";

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
let stop: () => void = () => undefined;

async function open(answer: unknown) {
  const asked = serve({ "GET /api/rows": [aRow({ id: 7 })], [PATH]: answer });
  const store = new RowStore(["de"], vi.fn());
  stop = store.follow();
  await store.load([7]);
  const wrapper = ({ children }: { children: ReactNode }) => (
    <QueryClientProvider client={new QueryClient()}>{children}</QueryClientProvider>
  );
  const { result } = renderHook(() => useCellChanges(store), { wrapper });
  return { asked, store, hook: result };
}

describe("changing a cell", () => {
  let person = 100;
  beforeEach(() => {
    vi.restoreAllMocks();
    localStorage.clear();
    // Another person for every test: what one left is none of the next one's.
    outbox.belongTo(++person);
    undoing.forget();
  });
  afterEach(() => stop());

  it("keeps a text that nobody answered for, and sends it again by itself", async () => {
    let up = false;
    const { asked, store, hook } = await open(() =>
      up ? { change: 1, cell } : refusal(503, "table-busy", "A file is being taken in."),
    );
    await act(() => hook.current.change(7, "de", { action: "PENCIL", text: "Rampe" }));
    expect(store.pending(7, "de")).toMatchObject({ status: "waiting", forms: { other: "Rampe" } });
    expect(Object.values(localStorage).join()).toContain("Rampe");
    up = true;
    act(() => waiting.now());
    await waitFor(() => expect(store.pending(7, "de")).toBeUndefined());
    expect(store.cell(7, "de")?.text).toBe("Rampe");
    expect(Object.values(localStorage).join()).not.toContain("Rampe");
    expect(changes(asked)).toHaveLength(2);
  });

  it("shows both texts when somebody else was quicker", async () => {
    const theirs = Response.json(
      { code: "cell-moved-on", detail: "Someone changed this text meanwhile.", cell: { ...cell, text: "Klappe" } },
      { status: 409 },
    );
    const { store, hook } = await open(theirs);
    await act(() => hook.current.change(7, "de", { action: "PENCIL", text: "Rampe" }));
    expect(store.pending(7, "de")).toMatchObject({
      status: "conflict",
      forms: { other: "Rampe" },
      theirs: { text: "Klappe" },
    });
    expect(store.cell(7, "de")?.text).toBe("Klappe");
  });

  it("takes its own text for no conflict when it was sent twice", async () => {
    const mine = Response.json({ code: "cell-moved-on", detail: "Someone changed this text.", cell }, { status: 409 });
    const { store, hook } = await open(mine);
    let said: string | null = "";
    await act(async () => {
      said = await hook.current.change(7, "de", { action: "PENCIL", text: "Rampe" });
    });
    expect(said).toBeNull();
    expect(store.pending(7, "de")).toBeUndefined();
  });
});
