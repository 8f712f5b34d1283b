import { afterEach, describe, expect, it, vi } from "vitest";
import { aRow } from "../test/builders";
import { outbox } from "./outbox/outbox";
import { RowStore, type Row } from "./rowStore";

const row = (id: number): Row => aRow({ id, key: `key.${id}` });

function answering(reply: (ids: number[]) => Response) {
  return vi.spyOn(globalThis, "fetch").mockImplementation((input) => {
    const ids = new URL(String(input), "http://ledger.example").searchParams.get("ids") ?? "";
    return Promise.resolve(reply(ids.split(",").map(Number)));
  });
}

afterEach(() => vi.restoreAllMocks());

describe("the row store", () => {
  const ids = Float64Array.from({ length: 200 }, (_, i) => i + 1);

  it("asks for each page once, however often it is looked at", async () => {
    const fetch = answering((wanted) => Response.json(wanted.map(row)));
    const store = new RowStore(["de"], vi.fn());
    store.ensure(ids, 50, 70);
    store.ensure(ids, 55, 75);
    await vi.waitFor(() => expect(store.row(70)).toBeDefined());
    expect(fetch).toHaveBeenCalledTimes(2);
    expect(store.row(121)).toBeUndefined();
  });

  it("asks again for a page that failed, and says why it did", async () => {
    const failures: unknown[] = [];
    answering(() => Response.json({ detail: "Not now.", code: "busy" }, { status: 503 }));
    const store = new RowStore(["de"], (failure) => failures.push(failure));
    store.ensure(ids, 0, 10);
    await vi.waitFor(() => expect(failures).toHaveLength(1));
    const fetch = answering((wanted) => Response.json(wanted.map(row)));
    store.ensure(ids, 0, 10);
    await vi.waitFor(() => expect(store.row(1)).toBeDefined());
    expect(fetch).toHaveBeenCalled();
  });

  it("says when a row has arrived", async () => {
    answering((wanted) => Response.json(wanted.map(row)));
    const store = new RowStore(["de"], vi.fn());
    const arrived = vi.fn();
    void store.loaded(70).then(arrived);
    store.ensure(ids, 0, 10);
    await vi.waitFor(() => expect(store.row(1)).toBeDefined());
    expect(arrived).not.toHaveBeenCalled();
    store.ensure(ids, 65, 75);
    await vi.waitFor(() => expect(arrived).toHaveBeenCalled());
  });

  it("tells only those who watch the row that changed", async () => {
    answering((wanted) => Response.json(wanted.map(row)));
    const store = new RowStore(["de"], vi.fn());
    store.ensure(ids, 0, 10);
    await vi.waitFor(() => expect(store.row(1)).toBeDefined());
    const first = vi.fn();
    const second = vi.fn();
    store.subscribe(1, first);
    store.subscribe(2, second);
    const stop = store.follow();
    outbox.keeps(1, "de", null, { other: "neu" }, "not yet");
    expect(first).toHaveBeenCalledTimes(1);
    expect(second).not.toHaveBeenCalled();
    expect(store.pending(1, "de")?.forms).toEqual({ other: "neu" });
    stop();
    outbox.drop(1, "de");
    expect(first).toHaveBeenCalledTimes(1);
  });

  it("reads again what changed elsewhere, and lets no late reply bring an older cell back", async () => {
    const cell = (version: number) => ({
      language: "de",
      state: "settled",
      text: `text ${version}`,
      settled: true,
      version,
      basedOn: 1,
      offers: [],
    });
    const asked: number[][] = [];
    answering((wanted) => {
      asked.push(wanted);
      return Response.json(wanted.map((id) => ({ ...row(id), source: "Read", cells: [cell(4)] })));
    });
    const store = new RowStore(["de"], vi.fn());
    store.ensure(ids, 0, 10);
    await store.loaded(1);
    store.setCell(1, cell(6));
    await store.refresh([1, 2, 190]);
    expect(asked.at(-1)).toEqual([1, 2]);
    expect(store.cell(1, "de")?.version).toBe(6);
    expect(store.cell(2, "de")?.version).toBe(4);
  });
});
