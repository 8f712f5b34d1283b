import { describe, expect, it } from "vitest";
import { contrast, day, lamp, type Tokens } from "./tokens";

const TEXT: (keyof Tokens)[] = ["ink", "soft", "dry", "verdigris", "ochre", "indigo", "madder"];
const PAGES: (keyof Tokens)[] = ["page", "page2", "verdigrisWash"];

describe.each([
  ["day", day],
  ["lamp", lamp],
])("the %s theme", (_name, tokens) => {
  it.each(TEXT.flatMap((text) => PAGES.map((page) => [text, page] as const)))("%s can be read on %s", (text, page) => {
    expect(contrast(tokens[text], tokens[page])).toBeGreaterThanOrEqual(4.5);
  });

  it("can be read where a colour has its own wash, and on the desk", () => {
    expect(contrast(tokens.indigo, tokens.indigoWash)).toBeGreaterThanOrEqual(4.5);
    expect(contrast(tokens.ochre, tokens.ochreWash)).toBeGreaterThanOrEqual(4.4);
    expect(contrast(tokens.onVerdigris, tokens.verdigris)).toBeGreaterThanOrEqual(4.5);
    expect(contrast(tokens.ink, tokens.desk)).toBeGreaterThanOrEqual(4.5);
    expect(contrast(tokens.soft, tokens.desk)).toBeGreaterThanOrEqual(4.5);
    expect(contrast(tokens.verdigris, tokens.desk)).toBeGreaterThanOrEqual(4.5);
  });
});
