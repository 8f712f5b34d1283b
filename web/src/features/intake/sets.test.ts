import { describe, expect, it } from "vitest";
import { aFile } from "../../test/builders";
import { choiceOf, sourceTags, withSource } from "./sets";
import type { Options } from "./useIntake";

describe("the source of a set", () => {
  const files = [aFile("en", { source: true }), aFile("de"), aFile("fi", { leftOut: true })];

  it("can be any language whose file goes in", () => {
    expect(sourceTags(files)).toEqual(["en", "de"]);
  });

  it("moves to the file of that language, and from the one that had it", () => {
    expect(withSource({ settlesOwn: false, source: "en" } as Options, files, "de")).toEqual({
      options: { settlesOwn: false, source: "de" },
      files: [
        { path: "l/en.yml", language: "en", source: false, leftOut: false },
        { path: "l/de.yml", language: "de", source: true, leftOut: false },
      ],
    });
  });

  it("is nowhere when no file is in that language: every file brings its own", () => {
    expect(withSource({ settlesOwn: false } as Options, files, "fi").files).toEqual([
      { path: "l/en.yml", language: "en", source: false, leftOut: false },
    ]);
  });
});

describe("a file's choice", () => {
  it("leaves format and character set to be found out", () => {
    expect(choiceOf(aFile("de"))).toEqual({ path: "l/de.yml", language: "de", source: false, leftOut: false });
  });
});
