import { act, renderHook } from "@testing-library/react";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { aLanguage, aRow } from "../test/builders";
import { changes, serve } from "../test/server";
import { Entries } from "./entries";
import type { Place } from "./keyboard";
import { outbox } from "./outbox/outbox";
import { RowStore, type CellView, type Row } from "./rowStore";
import { useCellChanges } from "./useCellChanges";
import { useEditing } from "./useEditing";

const ME = 5;
let person = 500;
let stop: () => void = () => undefined;

function aCell(part: Partial<CellView>): CellView {
  return { language: "de", state: "pencilled", settled: false, version: 3, basedOn: 1, offers: [], ...part };
}

async function sheet(rows: Row[], folded: string[] = []) {
  const asked = serve({ "GET /api/rows": rows });
  const store = new RowStore(["de"], vi.fn());
  stop = store.follow();
  await store.load(rows.map((row) => row.id));
  const say = vi.fn();
  const entries = Entries.of({
    deltas: rows.map((row, at) => row.id - (rows[at - 1]?.id ?? 0)),
    sections: [{ table: "ramp-panel", name: "Bow", at: 0 }],
  }).folding(new Set(folded));
  const wrapper = ({ children }: { children: ReactNode }) => (
    <QueryClientProvider client={new QueryClient()}>{children}</QueryClientProvider>
  );
  const { result, rerender, unmount } = renderHook(
    ({ place }: { place: Place }) =>
      useEditing({
        entries,
        store,
        languages: [aLanguage("de", "German")],
        keptBy: new Map(),
        place,
        me: ME,
        changes: useCellChanges(store),
        onSay: say,
        go: () => undefined,
        focus: () => undefined,
      }),
    { wrapper, initialProps: { place: { row: 0, column: 0 } } },
  );
  const sent = () => changes(asked).map((one) => ({ path: one.path, ...(one.json as object) }));
  /** Somebody else changes the first row, and this sheet hears of it. */
  const elsewhere = async (row: Row) => {
    rows[0] = row;
    await act(() => store.refresh([row.id]));
  };
  return {
    elsewhere,
    editor: result,
    moveTo: (row: number) => rerender({ place: { row, column: 0 } }),
    unmount,
    say,
    sent,
  };
}

/** Ends the open editor with what stands in it. */
function leave(editor: { current: ReturnType<typeof useEditing> }, how: "blur" | "put-forward" = "blur") {
  act(() => editor.current.end(editor.current.editing?.draft.all() ?? {}, how));
}

describe("the editor of the sheet", () => {
  beforeEach(() => {
    vi.restoreAllMocks();
    localStorage.clear();
    outbox.belongTo(++person);
  });
  afterEach(() => stop());

  it("ends where it opened, wherever the cursor is by then", async () => {
    const { editor, moveTo, sent } = await sheet([aRow({ id: 7 }), aRow({ id: 8, key: "ramp.down" })]);
    act(() => editor.current.open("R"));
    moveTo(1);
    leave(editor);
    await vi.waitFor(() => expect(sent()).toHaveLength(1));
    expect(sent()[0]).toMatchObject({ path: "/api/entries/7/cells/de/changes", action: "PENCIL", text: "R" });
  });

  it.each([null, "R"])("does not open out of sight, in a folded section: %s", async (letter) => {
    const { editor } = await sheet([aRow({ id: 7, cells: [aCell({ text: "alt" })] })], ["Bow"]);
    act(() => editor.current.open(letter));
    expect(editor.current.editing).toBeNull();
  });

  it.each([null, "R"])("sends the version that was seen when it opened, typed over: %s", async (letter) => {
    const { editor, elsewhere, sent } = await sheet([aRow({ id: 7, cells: [aCell({ text: "alt" })] })]);
    act(() => editor.current.open(letter));
    act(() => editor.current.editing?.draft.write("other", "mine"));
    await elsewhere(aRow({ id: 7, cells: [aCell({ text: "theirs", version: 5 })] }));
    leave(editor, "put-forward");
    await vi.waitFor(() => expect(sent()).toMatchObject([{ text: "mine", version: 3 }]));
  });

  it.each([
    ["a draft", aCell({ text: "alt" }), "blur", { action: "CLEAR" }],
    ["one's own offer", aCell({ state: "offered", offers: [offer(ME)] }), "blur", { action: "WITHDRAW", offer: 9 }],
    ["a settled text, with Enter", aCell({ text: "alt", settled: true }), "put-forward", { action: "CLEAR" }],
  ] as const)("takes away %s that is emptied", async (_, cell, how, change) => {
    const { editor, sent } = await sheet([aRow({ id: 7, cells: [cell] })]);
    act(() => editor.current.open(null));
    act(() => editor.current.editing?.draft.write("other", ""));
    leave(editor, how);
    await vi.waitFor(() => expect(sent()).toMatchObject([{ ...change, version: 3 }]));
  });

  it.each([
    ["a settled text", aCell({ text: "alt", settled: true })],
    ["another's offer", aCell({ state: "offered", offers: [offer(6)] })],
  ])("says that leaving %s empty takes nothing away", async (_, cell) => {
    const { editor, sent, say } = await sheet([aRow({ id: 7, cells: [cell] })]);
    act(() => editor.current.open(null));
    act(() => editor.current.editing?.draft.write("other", ""));
    leave(editor);
    expect(say).toHaveBeenCalledExactlyOnceWith(expect.stringContaining("Nothing was taken away"));
    expect(sent()).toEqual([]);
    expect(outbox.unsaved()).toEqual([]);
  });

  it("keeps a text over a settled one in sight until it is put forward", async () => {
    const { editor, sent } = await sheet([aRow({ id: 7, cells: [aCell({ text: "alt", settled: true })] })]);
    act(() => editor.current.open("n"));
    leave(editor);
    expect(outbox.pending(7, "de")).toMatchObject({ status: "failed", forms: { other: "n" } });
    act(() => editor.current.open(null));
    expect(editor.current.editing?.initial).toEqual({ other: "n" });
    leave(editor, "put-forward");
    await vi.waitFor(() => expect(sent()).toMatchObject([{ action: "PUT_FORWARD", text: "n", version: 3 }]));
  });

  it("swallows no letter that is typed on a plural that has texts", async () => {
    const forms = { one: "Boot", other: "Boote" };
    const { editor } = await sheet([
      aRow({ id: 7, shape: "plural", cells: [aCell({ text: "Boote", forms })] }),
      aRow({ id: 8, shape: "plural" }),
    ]);
    act(() => editor.current.open("s"));
    expect(editor.current.editing?.draft.all()).toEqual({ one: "Boots", other: "Boote" });
  });

  it("goes away with its page and leaves its text in sight", async () => {
    const { editor, unmount } = await sheet([aRow({ id: 7 })]);
    act(() => editor.current.open("halb"));
    unmount();
    expect(outbox.pending(7, "de")).toMatchObject({ status: "failed", forms: { other: "halb" } });
  });
});

function offer(authorId: number): CellView["offers"][number] {
  return {
    id: 9,
    author: "A",
    authorId,
    at: "2026-11-01T10:00:00Z",
    text: "neu",
    basedOn: 1,
    note: "",
    version: 1,
  } as never;
}
