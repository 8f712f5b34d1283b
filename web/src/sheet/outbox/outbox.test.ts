import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { changes, refusal, serve } from "../../test/server";
import type { CellView } from "./slip";

const PATH = "POST /api/entries/7/cells/de/changes";

function cell(version: number, text: string): CellView {
  return { language: "de", state: "pencilled", text, settled: false, version, basedOn: 1, offers: [] };
}

/** Whoever was at a page is gone after its test, and with them what they had not brought to the server. */
const leave: (() => void)[] = [];
const NOBODY = 2_000_000;

/** The page as it is after loading it: nothing of the last one is left but what the browser keeps. */
async function page(person = 5) {
  vi.resetModules();
  const { outbox } = await import("./outbox");
  const { waiting } = await import("./waiting");
  const { undoing } = await import("../undoing");
  undoing.belongTo(person);
  outbox.belongTo(person);
  await outbox.takeOver();
  leave.push(() => outbox.belongTo(NOBODY));
  const type = (text: string, version: number | undefined = 3) => {
    const seen = outbox.seen(7, "de", version);
    const id = outbox.opens(7, "de", seen);
    outbox.typed(7, "de", id, { other: text });
    return { id, seen };
  };
  const pencil = (text: string, editor = type(text)) =>
    outbox.change(7, "de", { action: "PENCIL", text }, editor.seen, editor.id, () => Promise.resolve(3));
  return { outbox, waiting, undoing, type, pencil };
}

/** An answer that is given when the test says so. */
function later() {
  const given: ((reply: unknown) => void)[] = [];
  const answer = () =>
    new Promise<Response>((resolve) =>
      given.push((reply) => resolve(reply instanceof Response ? reply : Response.json(reply))),
    );
  return { answer, give: (at: number, reply: unknown) => given[at]?.(reply), asked: () => given.length };
}

/** Locks across tabs as a browser has them, and a way to close a tab. */
function withLocks() {
  const queues = new Map<string, (() => void)[]>();
  const run = (name: string, work: () => unknown) =>
    new Promise<void>((resolve, reject) => {
      const begin = () =>
        void Promise.resolve(work())
          .then(() => resolve(), reject)
          .finally(() => next(name));
      const queue = queues.get(name) ?? [];
      queues.set(name, [...queue, begin]);
      if (queue.length === 0) begin();
    });
  const next = (name: string) => {
    const queue = (queues.get(name) ?? []).slice(1);
    if (queue.length === 0) queues.delete(name);
    else queues.set(name, queue);
    queue[0]?.();
  };
  const query = () => Promise.resolve({ held: [...queues.keys()].map((name) => ({ name })) });
  vi.stubGlobal("navigator", { ...navigator, locks: { request: run, query } });
  return { end: (tab: string) => next(`mellow.tab.${tab}`) };
}

beforeEach(() => {
  localStorage.clear();
  sessionStorage.clear();
});
afterEach(() => {
  for (const go of leave.splice(0)) go();
  vi.restoreAllMocks();
});

describe("the outbox", () => {
  it("sends one text after the other, each upon what the one before made", async () => {
    const { answer, give, asked } = later();
    const all = serve({ [PATH]: answer });
    const { outbox, pencil, type } = await page();
    const first = pencil("a");
    await vi.waitFor(() => expect(asked()).toBe(1));
    const second = pencil("b", type("b"));
    expect(asked()).toBe(1);
    expect(outbox.pending(7, "de")).toMatchObject({ status: "saving", forms: { other: "b" } });
    give(0, { change: 1, cell: cell(4, "a") });
    expect(await first).toEqual({ done: true, lowered: "" });
    await vi.waitFor(() => expect(asked()).toBe(2));
    give(1, { change: 2, cell: cell(5, "b") });
    await second;
    expect(changes(all).map((one) => (one.json as { version: number }).version)).toEqual([3, 4]);
    expect(outbox.pending(7, "de")).toBeUndefined();
    expect(Object.keys(localStorage)).toEqual([]);
  });

  it("says to nobody that they changed their own text meanwhile", async () => {
    const { answer, give, asked } = later();
    serve({ [PATH]: answer });
    const { outbox, pencil, type } = await page();
    void pencil("a");
    const editor = type("b");
    expect(outbox.versionOf(7, "de", editor.seen)).toBeUndefined();
    await vi.waitFor(() => expect(asked()).toBe(1));
    give(0, { change: 1, cell: cell(4, "a") });
    await vi.waitFor(() => expect(outbox.versionOf(7, "de", editor.seen)).toBe(4));
    expect(Object.values(localStorage).join()).toContain('"b"');
  });

  it("keeps the copy of what is typed now when an earlier reply comes", async () => {
    const { answer, give, asked } = later();
    serve({ [PATH]: answer });
    const { outbox, pencil, type } = await page();
    void pencil("a");
    await vi.waitFor(() => expect(asked()).toBe(1));
    type("ab");
    give(0, { change: 1, cell: cell(4, "a") });
    await outbox.rest();
    const after = await page();
    expect(after.outbox.pending(7, "de")).toMatchObject({ status: "failed", forms: { other: "ab" } });
  });

  it("shows and sends after a reload what the page before had", async () => {
    serve({ [PATH]: () => new Promise(() => undefined) });
    const before = await page();
    void before.pencil("a");
    const all = serve({ [PATH]: { change: 1, cell: cell(4, "a") } });
    const after = await page();
    await vi.waitFor(() => expect(after.outbox.pending(7, "de")).toBeUndefined());
    expect(changes(all)).toMatchObject([{ json: { action: "PENCIL", text: "a", version: 3 } }]);
    expect(Object.keys(localStorage)).toEqual([]);
  });

  it("sends nothing by itself that nobody had seen the version of", async () => {
    serve({ [PATH]: () => new Promise(() => undefined) });
    const before = await page();
    const seen = { version: undefined, after: null };
    void before.outbox.change(7, "de", { action: "PENCIL", text: "a" }, seen, null, () => new Promise(() => undefined));
    const all = serve({ [PATH]: { change: 1, cell: cell(4, "a") } });
    const after = await page();
    expect(after.outbox.pending(7, "de")).toMatchObject({ status: "failed", forms: { other: "a" } });
    expect(changes(all)).toEqual([]);
  });

  it("takes over what an earlier edition of the page left", async () => {
    localStorage.setItem("mellow.unsaved.5.7.de", JSON.stringify({ text: "alt" }));
    localStorage.setItem(
      "mellow.unsaved.5.8.pt-BR",
      JSON.stringify({ text: "velho", sending: { action: "PUT_FORWARD", version: 2 } }),
    );
    const all = serve({ "POST /api/entries/8/cells/pt-BR/changes": { change: 1, cell: cell(3, "velho") } });
    const { outbox } = await page();
    expect(outbox.pending(7, "de")?.forms).toEqual({ other: "alt" });
    await vi.waitFor(() => expect(changes(all)).toMatchObject([{ json: { action: "PUT_FORWARD", version: 2 } }]));
  });

  it("shows nobody the texts of another, and gives them back to their own", async () => {
    serve({ [PATH]: refusal(503, "busy", "Not now.") });
    const { outbox, pencil, undoing } = await page(5);
    await pencil("a");
    undoing.did({ change: 9, entries: [7] });
    outbox.belongTo(0);
    expect(outbox.pending(7, "de")?.forms).toEqual({ other: "a" });
    outbox.belongTo(6);
    undoing.belongTo(6);
    await outbox.takeOver();
    expect(outbox.pending(7, "de")).toBeUndefined();
    expect(await undoing.undo()).toBeNull();
    outbox.belongTo(5);
    await outbox.takeOver();
    expect(outbox.pending(7, "de")?.forms).toEqual({ other: "a" });
  });

  it("leaves alone what a tab that lives is working on", async () => {
    serve({ [PATH]: () => new Promise(() => undefined) });
    const { end } = withLocks();
    const one = await page();
    const first = await import("./records");
    one.type("being typed");
    const two = await page();
    expect(two.outbox.pending(7, "de")).toBeUndefined();
    // As soon as the first is closed, the second shows what was being typed there.
    end(first.TAB);
    await vi.waitFor(() => expect(two.outbox.pending(7, "de")?.forms).toEqual({ other: "being typed" }));
    vi.unstubAllGlobals();
  });

  it("goes on when the browser's store is damaged, full or closed", async () => {
    localStorage.setItem("mellow.text.5.7.de.x", "{damaged");
    localStorage.setItem("mellow.text.5.8.de.x", "[]");
    sessionStorage.setItem("mellow.undo.5", '{"done": 3}');
    const { outbox, type } = await page();
    expect(outbox.unsaved()).toEqual([]);
    expect(localStorage.getItem("mellow.text.5.7.de.x")).toBe("{damaged");
    const { isRefusing } = await import("./browserStore");
    vi.spyOn(Storage.prototype, "setItem").mockImplementation(() => {
      throw new DOMException("full", "QuotaExceededError");
    });
    const { id } = type("typed on");
    outbox.keeps(7, "de", id, { other: "typed on" }, "not put forward");
    expect(outbox.pending(7, "de")?.forms).toEqual({ other: "typed on" });
    expect(isRefusing()).toBe(true);
  });

  it("lets undo take back the last that was done, whatever order the replies come in", async () => {
    const { answer, give, asked } = later();
    const other = later();
    serve({ [PATH]: answer, "POST /api/entries/8/cells/de/changes": other.answer });
    const { outbox, undoing, pencil } = await page();
    void pencil("a");
    const seen = outbox.seen(8, "de", 1);
    void outbox.change(8, "de", { action: "PENCIL", text: "b" }, seen, null, () => Promise.resolve(1));
    await vi.waitFor(() => expect(asked() + other.asked()).toBe(2));
    let rested = false;
    const rest = outbox.rest().then(() => (rested = true));
    other.give(0, { change: 11, cell: cell(2, "b") });
    await vi.waitFor(() => expect(outbox.pending(8, "de")).toBeUndefined());
    expect(rested).toBe(false);
    give(0, { change: 12, cell: cell(4, "a") });
    await rest;
    const all = serve({ "POST /api/changes/11/undo": { change: 13, amount: 1, refused: [], lowered: [] } });
    await undoing.undo();
    expect(changes(all).map((one) => one.path)).toEqual(["/api/changes/11/undo"]);
  });

  it("sends nothing twice when a newer text has overtaken one that waited", async () => {
    serve({ [PATH]: refusal(503, "busy", "Not now.") });
    const { outbox, waiting, pencil, type } = await page();
    await pencil("a");
    const { answer, give, asked } = later();
    const all = serve({ [PATH]: answer });
    const second = pencil("b", type("b"));
    await vi.waitFor(() => expect(asked()).toBe(1));
    void pencil("c", type("c"));
    waiting.now();
    await Promise.resolve();
    expect(asked()).toBe(1);
    give(0, { change: 1, cell: cell(4, "b") });
    await second;
    await vi.waitFor(() => expect(asked()).toBe(2));
    give(1, { change: 2, cell: cell(5, "c") });
    await outbox.rest();
    expect(changes(all).map((one) => (one.json as { text: string }).text)).toEqual(["b", "c"]);
    expect(outbox.pending(7, "de")).toBeUndefined();
  });

  it("keeps a text that is refused, and says why", async () => {
    serve({ [PATH]: refusal(422, "blocked", "The placeholder {n} is missing.") });
    const { outbox, pencil } = await page();
    expect(await pencil("a")).toEqual({ done: false, why: "The placeholder {n} is missing.", waits: false });
    expect(outbox.unsaved()).toMatchObject([{ entry: 7, language: "de", pending: { forms: { other: "a" } } }]);
    outbox.drop(7, "de");
    expect(outbox.unsaved()).toEqual([]);
  });
});
