import { describe, expect, it } from "vitest";
import { formatLabel, inOrder, type Format } from "./formats";

const format = (name: string): Format => ({
  name,
  ending: name,
  mediaType: "text/plain",
  apart: true,
  inPlace: true,
  spellsItself: false,
});

describe("formats", () => {
  it("come with spreadsheets first and the others as the server has them", () => {
    const said = { formats: ["mo", "ods", "xlsx", "po", "csv"].map(format), charsets: ["UTF-8"] };
    expect(inOrder(said).formats.map((one) => one.name)).toEqual(["csv", "xlsx", "ods", "mo", "po"]);
    expect(said.formats[0]?.name).toBe("mo");
  });

  it("have a name of their own where nobody gave them another", () => {
    expect(formatLabel("csv")).not.toBe("csv");
    expect(formatLabel("toy")).toBe("toy");
  });
});
