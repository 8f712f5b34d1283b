import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { undoing } from "./undoing";

describe("one's own last changes", () => {
  beforeEach(() => {
    undoing.belongTo(5);
    undoing.forget();
  });
  afterEach(() => vi.restoreAllMocks());

  /** The server numbers undos from 100. */
  function server(refuse = 0) {
    const asked: string[] = [];
    let next = 100;
    vi.spyOn(globalThis, "fetch").mockImplementation((input) => {
      asked.push(String(input));
      return Promise.resolve(
        String(input).includes(`/${refuse}/`)
          ? Response.json({ detail: "Changed since.", code: "changed-since" }, { status: 409 })
          : Response.json({ change: next++, amount: 1, refused: [], lowered: [] }),
      );
    });
    return asked;
  }

  it("go back one by one, and forward again by undoing the undo", async () => {
    const asked = server();
    undoing.did({ change: 1, entries: [7] });
    undoing.did({ change: 2, entries: [8] });
    expect((await undoing.undo())?.entries).toEqual([8]);
    expect((await undoing.undo())?.entries).toEqual([7]);
    expect(await undoing.undo()).toBeNull();
    await undoing.redo();
    await undoing.redo();
    expect(await undoing.redo()).toBeNull();
    await undoing.undo();
    expect(asked.map((path) => path.split("/")[3])).toEqual(["2", "1", "101", "100", "103"]);
  });

  it("stay when the server could not be asked", async () => {
    vi.spyOn(globalThis, "fetch").mockRejectedValueOnce(new TypeError("down"));
    undoing.did({ change: 1, entries: [7] });
    await expect(undoing.undo()).rejects.toThrow();
    server();
    expect((await undoing.undo())?.entries).toEqual([7]);
  });

  it("cannot be done again once something else was done", async () => {
    server();
    undoing.did({ change: 1, entries: [7] });
    await undoing.undo();
    undoing.did({ change: 2, entries: [8] });
    expect(await undoing.redo()).toBeNull();
  });

  it("go on with the change before when one cannot be taken back", async () => {
    server(2);
    undoing.did({ change: 1, entries: [7] });
    undoing.did({ change: 2, entries: [8] });
    await expect(undoing.undo()).rejects.toThrow("Changed since.");
    expect((await undoing.undo())?.entries).toEqual([7]);
  });
});
