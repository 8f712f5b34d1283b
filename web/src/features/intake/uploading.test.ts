import { afterEach, describe, expect, it, vi } from "vitest";
import { filesOf, uploadAll } from "./uploading";

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

describe("uploading", () => {
  afterEach(() => vi.restoreAllMocks());

  it("goes on after a file that is refused, and unpacks archives", async () => {
    const asked: string[] = [];
    vi.spyOn(globalThis, "fetch").mockImplementation((input) => {
      const path = String(input);
      asked.push(path);
      if (path.includes("bad")) return Promise.resolve(Response.json({ detail: "bad.bin: no." }, { status: 422 }));
      if (path.includes("archive"))
        return Promise.resolve(
          Response.json({ intakes: [{ id: 8 }, { id: 9 }], refused: [{ file: "x.bin", why: "of no format" }] }),
        );
      return Promise.resolve(Response.json({ id: 7 }));
    });
    const told: string[] = [];
    const came = await uploadAll(
      ["a b.csv", "bad.bin", "all.ZIP"].map((path) => ({ path, file: file(path) })),
      (at, name) => told.push(`${at} ${name}`),
    );
    expect(came.intakes).toEqual([7, 8, 9]);
    expect(came.refused).toEqual([
      { file: "bad.bin", why: "bad.bin: no." },
      { file: "x.bin", why: "of no format" },
    ]);
    expect(asked).toEqual([
      "/api/intakes?name=a%20b.csv",
      "/api/intakes?name=bad.bin",
      "/api/intakes/archive?name=all.ZIP",
    ]);
    expect(told).toEqual(["0 a b.csv", "1 bad.bin", "2 all.ZIP"]);
  });
});
