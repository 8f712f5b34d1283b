import { describe, expect, it } from "vitest";
import { BEGINNINGS, inFiles } from "./recipes";

describe("a recipe in other files", () => {
  const texts = BEGINNINGS.texts;

  it.each([
    ["place", { files: "place", format: "files", pattern: "{path}" }],
    ["one", { files: "one", format: "csv", pattern: "texts.{ext}" }],
    ["table", { files: "table", format: "json", pattern: "{tag}.{ext}" }],
  ])("has a format and names that go with %s", (files, expected) => {
    expect(inFiles(texts, files)).toMatchObject(expected);
  });

  it("has a format and names of its own again after it was in place", () => {
    const there = inFiles({ ...texts, texts: "offered", charset: "windows-1252" }, "place");
    expect(there.charset).toBe("utf-8");
    expect(inFiles(there, "each")).toEqual({ ...texts, texts: "offered" });
    expect(inFiles(there, "one")).toMatchObject({ format: "csv", pattern: "texts.{ext}" });
  });

  it("keeps names that tell languages apart", () => {
    const named = { ...texts, pattern: "values-{tag-r}/strings.xml" };
    expect(inFiles(named, "table").pattern).toBe(named.pattern);
    expect(inFiles({ ...texts, pattern: "all.{ext}" }, "each").pattern).toBe("{tag}.{ext}");
  });
});
