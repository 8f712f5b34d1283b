import { describe, expect, it } from "vitest";
import { pieces } from "./pieces";

describe("pieces", () => {
  it.each([
    ["Lower ramp {n}? Hold", "Lower ramp [{n}]? Hold"],
    ["Ramp angle %1$d°", "Ramp angle [%1$d]°"],
    ["%s of %-5.2f", "[%s] of [%-5.2f]"],
    ["100%% sure", "100[%%] sure"],
    ["Save 50 % de tudo", "Save 50 % de tudo"],
    ["Hi {{name}}, ${x}", "Hi [{{name}}], [${x}]"],
    ["<b>Bold</b> text", "[<b>]Bold[</b>] text"],
    ["%(count)d files, %@", "[%(count)d] files, [%@]"],
    ["a < b and c > d", "a < b and c > d"],
    ["{not closed", "{not closed"],
    ["", ""],
  ])("cuts %j", (text, shown) => {
    const cut = pieces(text);
    expect(cut.map((piece) => (piece.kind === "placeholder" ? `[${piece.text}]` : piece.text)).join("")).toBe(shown);
    expect(cut.map((piece) => piece.text).join("")).toBe(text);
  });
});
