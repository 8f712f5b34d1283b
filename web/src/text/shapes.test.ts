import { describe, expect, it } from "vitest";
import { aName } from "../test/builders";
import { fieldsOf, formsOf, inOneLine, inOrder, mainForm, sameForms } from "./shapes";

describe("texts of several forms", () => {
  it("are read in the order of CLDR, states by number", () => {
    expect(inOrder({ other: "d", few: "b", many: "c", one: "a" }).map(([form]) => form)).toEqual([
      "one",
      "few",
      "many",
      "other",
    ]);
    expect(inOneLine("x", { "10": "c", "2": "b", "0": "a" })).toBe("a / b / c");
    expect(inOneLine("ramp.png", { other: "ramp.png", file: "12" })).toBe("ramp.png");
    expect(inOneLine("plain", undefined)).toBe("plain");
  });

  it("have a field per plural form of the language, and as many states as the source", () => {
    expect(fieldsOf("plural", aName("de", "German"), undefined)).toEqual([
      { form: "one", label: "one · 1" },
      { form: "other", label: "other · 0, 2" },
    ]);
    expect(fieldsOf("states", aName("de", "German"), { "1": "on", "0": "off" })).toEqual([
      { form: "0", label: "0 · off" },
      { form: "1", label: "1 · on" },
    ]);
    expect(fieldsOf("plain", aName("de", "German"), undefined)).toEqual([{ form: "other", label: "" }]);
  });

  it("are equal when every form is, absent or empty alike", () => {
    expect(sameForms({ one: "a" }, { one: "a", other: "" })).toBe(true);
    expect(sameForms({ one: "a" }, { one: "b" })).toBe(false);
    expect(formsOf("", undefined)).toEqual({});
    expect(formsOf("a", undefined)).toEqual({ other: "a" });
    expect(mainForm({ one: "a", few: "b" })).toBe("b");
  });
});
