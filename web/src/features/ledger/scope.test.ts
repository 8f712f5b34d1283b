import { describe, expect, it } from "vitest";
import { readScope, writeScope, type Scope } from "./scope";

describe("a scope in the address", () => {
  it("is the same after a round trip", () => {
    const scope: Scope = {
      table: "ramp-panel",
      languages: ["de", "pt-BR"],
      only: ["stale", "untranslated"],
      by: "key",
      words: "ramp & 50 %",
      intake: 7,
    };
    expect(readScope(new URLSearchParams(writeScope(scope)))).toEqual(scope);
  });

  it("leaves out what it does not know, and what is said twice", () => {
    const scope = readScope(new URLSearchParams("table=x&in=de,,de,fi&only=stale,green&by=colour&intake=-1"));
    expect(scope).toEqual({
      table: "x",
      languages: ["de", "fi"],
      only: ["stale"],
      by: "section",
      words: "",
      intake: null,
    });
  });

  it("is short when it says nothing special", () => {
    expect(writeScope(readScope(new URLSearchParams("table=x")))).toBe("table=x");
  });
});
