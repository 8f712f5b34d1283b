import { afterEach, describe, expect, it, vi } from "vitest";
import { bringAll, filesOf, type Far } from "./uploading";

function file(path: string, content = "key,en"): File {
  return new File([content], path.slice(path.lastIndexOf("/") + 1));
}

/** A folder or file as a browser hands it over; a folder is read in two parts, as large ones are. */
function entry(path: string, inside?: FileSystemEntry[]): FileSystemEntry {
  let parts = inside ? [inside.slice(0, 1), inside.slice(1), []] : [];
  return {
    fullPath: `/${path}`,
    isFile: !inside,
    file: (done: (file: File) => void) => done(file(path)),
    createReader: () => ({
      readEntries: (done: (entries: FileSystemEntry[]) => void) => {
        const [next = [], ...rest] = parts;
        parts = rest;
        done(next);
      },
    }),
  } as unknown as FileSystemEntry;
}

describe("dropping", () => {
  it("finds the files of folders with their paths, and leaves hidden ones", async () => {
    const folder = entry("app", [
      entry("app/fi.json"),
      entry("app/.hidden"),
      entry("app/res", [entry("app/res/de.json")]),
    ]);
    const items = [folder, entry("a.csv")].map((one) => ({ webkitGetAsEntry: () => one }));
    const found = await filesOf({ items, files: [] } as unknown as DataTransfer);
    expect(found.map((one) => one.path)).toEqual(["a.csv", "app/fi.json", "app/res/de.json"]);
  });
});

describe("bringing", () => {
  afterEach(() => vi.restoreAllMocks());

  const dropped = (...paths: string[]) => paths.map((path) => ({ path, file: file(path) }));

  it("sends every file to one drop and has it sorted, whatever is refused", async () => {
    const asked: string[] = [];
    const sorted = {
      id: 3,
      files: 2,
      intakes: [{ id: 8 }],
      refused: [{ file: "x.json", why: "x.json stands alone.", readable: true }],
    };
    vi.spyOn(globalThis, "fetch").mockImplementation((input) => {
      const path = String(input);
      asked.push(path);
      if (path.includes("bad")) return Promise.resolve(Response.json({ detail: "bad.zip: no." }, { status: 422 }));
      return Promise.resolve(Response.json(path.endsWith("/sort") ? sorted : { id: 3, files: 0, refused: [] }));
    });
    const told: Far[] = [];
    const came = await bringAll(dropped("a b.csv", "bad.zip", "l/de.yml"), (far) => told.push(far));
    expect(came).toEqual({
      drop: 3,
      intakes: [8],
      refused: [
        { file: "bad.zip", why: "bad.zip: no." },
        { ...sorted.refused[0], kept: true },
      ],
    });
    expect(asked[0]).toBe("/api/drops");
    expect(asked.slice(1, 4).sort()).toEqual([
      "/api/drops/3/files?name=a%20b.csv",
      "/api/drops/3/files?name=bad.zip",
      "/api/drops/3/files?name=l%2Fde.yml",
    ]);
    expect(asked.slice(4)).toEqual(["/api/drops/3/sort"]);
    expect(told.map((far) => `${far.done} of ${far.of}`)).toContain("0 of 3");
  });

  it("asks again while sorting goes on, and says why it stopped", async () => {
    const replies = [
      { id: 3, run: { status: "going", done: 1, total: 2, message: "" }, refused: [] },
      { id: 3, run: { status: "failed", done: 1, total: 2, message: "The server could not finish." }, refused: [] },
    ];
    vi.spyOn(globalThis, "fetch").mockImplementation((input, init) => {
      const path = String(input);
      // What another test left behind may still ask for something of its own.
      if (!path.startsWith("/api/drops")) return Promise.resolve(Response.json({}));
      const sorting = path.endsWith("/sort") || init?.method === "GET";
      return Promise.resolve(Response.json(sorting ? replies.shift() : { id: 3, refused: [] }));
    });
    const told: Far[] = [];
    await expect(bringAll(dropped("a.csv"), (far) => told.push(far))).rejects.toThrow("could not finish");
    expect(told.at(-1)).toEqual({ step: "sorting", done: 1, of: 2, file: "" });
  });

  it("sorts nothing when nothing came", async () => {
    const asked: string[] = [];
    vi.spyOn(globalThis, "fetch").mockImplementation((input) => {
      asked.push(String(input));
      return Promise.resolve(
        asked.length === 1 ? Response.json({ id: 3, refused: [] }) : Response.json({ detail: "no." }, { status: 422 }),
      );
    });
    expect((await bringAll(dropped("bad.bin"), () => undefined)).intakes).toEqual([]);
    expect(asked).toHaveLength(2);
  });
});
